"""What can be done to look again at the work: reviewing, trying, filling with rows."""

from __future__ import annotations

from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.commands.hands import ReviewHands
from outgrowth.workspace.commands.review_commands import list_here
from outgrowth.workspace.workspace import Workspace


def review_actions(workspace: Workspace, hands: ReviewHands) -> list[Action]:
    """The actions of Review and Trials."""

    def on_bench() -> bool:
        return workspace.owner is not None

    return [
        Action(
            "look-again",
            "Look again: what a colleague would point at",
            "Review",
            hands.show_look,
            shortcut="Alt+J",
        ),
        Action(
            "trials",
            "Trials: the part with real content",
            "Review",
            hands.show_trials,
            on_bench,
            "Alt+Y",
        ),
        Action(
            "fill-list",
            "Fill this list with real rows",
            "Review",
            hands.ask_fill,
            lambda: list_here(workspace) is not None,
            "Alt+F",
        ),
    ]
