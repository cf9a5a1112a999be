"""The document in hand: what is selected, what an edit reaches, what can be undone."""

from outgrowth.app.session.engine import Engine
from outgrowth.app.session.session import Selection, Session

__all__ = ["Engine", "Selection", "Session"]
