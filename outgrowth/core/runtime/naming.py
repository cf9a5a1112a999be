"""Parts by their names: “Help › May I bring my bicycle? › head”.

Names are those of the nodes on the way, from what runs inwards; boxes on the way, and the name
of what runs, may be left out. A slash between them does too, as in the paths of `measure`.
"""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.layout.rectangles import Located, locate
from outgrowth.core.motion.view import GHOST
from outgrowth.core.refusal import LONGEST_SENTENCE, Refusal, quoted
from outgrowth.core.runtime.runtime import Runtime

BETWEEN = " › "
_MOST_LISTED = 6


class NameRefusal(Refusal):
    """No part, or more than one, is called so; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


def named_as(names: Sequence[str]) -> str:
    """A part's names as one text."""
    return BETWEEN.join(names)


def part_named(runtime: Runtime, text: str) -> Located:
    """The part that is shown now and called so. Raises NameRefusal."""
    between = BETWEEN.strip() if BETWEEN.strip() in text else "/"
    wanted = [name.strip() for name in text.split(between)]
    visible = [
        located
        for located in locate(*runtime.view(), runtime.owner_name)
        if not any(step.startswith(GHOST) for step in located.path)
    ]
    called_so = [located for located in visible if _is_called(located.names, wanted)]
    exact = [
        located
        for located in called_so
        if list(located.names) == wanted or list(located.names[1:]) == wanted
    ]
    called_so = exact or called_so
    if len(called_so) == 1:
        return called_so[0]
    called = quoted(text, 80)
    if called_so:
        names = "; ".join(named_as(located.names) for located in called_so[:_MOST_LISTED])
        raise NameRefusal(
            f"“{called}” could be {len(called_so)} parts: {names}. Name it more closely."
        )
    last = [located for located in visible if located.names[-1] == wanted[-1]] or visible
    names = "; ".join(dict.fromkeys(named_as(located.names) for located in last[:_MOST_LISTED]))
    raise NameRefusal(f"No part called “{called}” is shown. There is: {names}.")


def _is_called(names: tuple[str, ...], wanted: Sequence[str]) -> bool:
    """Whether the wanted names are among a part's, in their order, and end with its own."""
    if names[-1] != wanted[-1]:
        return False
    rest = iter(names)
    return all(any(name == other for other in rest) for name in wanted)
