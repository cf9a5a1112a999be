"""What a window does, without the window: the document in hand, what is selected, what an edit
reaches, what can be undone; commands by subject, and what panels show as values. No Qt."""

from outgrowth.workspace.engine import Engine
from outgrowth.workspace.selection import Selection
from outgrowth.workspace.workspace import Workspace

__all__ = ["Engine", "Selection", "Workspace"]
