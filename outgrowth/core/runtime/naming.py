"""Parts by their names: “Help › May I bring my bicycle? › head”.

Names are those of the nodes on the way, from what runs inwards; boxes on the way, and the name
of what runs, may be left out. A slash between them does too, as in the paths of `measure`.
"""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.refusal import LONGEST_SENTENCE, Refusal, quoted
from outgrowth.core.layout.rectangles import Located, locate
from outgrowth.core.motion.view import GHOST
from outgrowth.core.runtime.runtime import Runtime

BETWEEN = " › "
_MOST_LISTED = 6


class NameProblem(Refusal):
    """No part, or more than one, is called so; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


def named_as(names: Sequence[str]) -> str:
    """A part's names as one text."""
    return BETWEEN.join(names)


def part_named(runtime: Runtime, said: str) -> Located:
    """The part that is shown now and called so. Raises NameProblem."""
    between = BETWEEN.strip() if BETWEEN.strip() in said else "/"
    wanted = [name.strip() for name in said.split(between)]
    shown = [
        at
        for at in locate(*runtime.view(), runtime.owner_name)
        if not any(step.startswith(GHOST) for step in at.path)
    ]
    found = [at for at in shown if _is_called(at.names, wanted)]
    exact = [at for at in found if list(at.names) == wanted or list(at.names[1:]) == wanted]
    found = exact or found
    if len(found) == 1:
        return found[0]
    called = quoted(said, 80)
    if found:
        names = "; ".join(named_as(at.names) for at in found[:_MOST_LISTED])
        raise NameProblem(f"“{called}” could be {len(found)} parts: {names}. Name it more closely.")
    last = [at for at in shown if at.names[-1] == wanted[-1]] or shown
    names = "; ".join(dict.fromkeys(named_as(at.names) for at in last[:_MOST_LISTED]))
    raise NameProblem(f"No part called “{called}” is shown. There is: {names}.")


def _is_called(names: tuple[str, ...], wanted: Sequence[str]) -> bool:
    """Whether the wanted names are among a part's, in their order, and end with its own."""
    if names[-1] != wanted[-1]:
        return False
    rest = iter(names)
    return all(any(name == other for other in rest) for name in wanted)
