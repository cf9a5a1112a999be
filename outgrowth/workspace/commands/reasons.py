"""What an action waits for where it is off: said where it is looked for, and when it is pressed."""

from __future__ import annotations

from outgrowth.workspace.commands.action import Action

_PART = "select a part of what is on the bench"
_INSTANCE = "select an instance"
_BOX = "select a box, or a part in one"
_IN_A_ROW = "select a part that stands in a row or column"
_COMPONENT = "open a component"
_SEVERAL = "select parts that lie in one box"
_THREE = "select three parts or more that lie in one box"
_CONNECTED = "connect to a library"
_NEEDS = {
    "undo": "change something",
    "redo": "undo something",
    "cut": _PART,
    "copy": _PART,
    "paste": "copy or cut something",
    "paste-look": "copy a part whose look it is to be",
    "duplicate": _PART,
    "remove": _PART,
    "same-kind": _PART,
    "same-component": _INSTANCE,
    "same-fill": _PART,
    "draw-box": _BOX,
    "draw-text": _BOX,
    "draw-ellipse": _BOX,
    "draw-ring": _BOX,
    "draw-line": _BOX,
    "draw-icon": _BOX,
    "place-picture": _BOX,
    "copy-owner": "open a component or a screen",
    "remove-owner": "open a component or a screen",
    "make-component": "select a part that is no instance",
    "wrap": _PART,
    "wrap-inside": "select a box that holds something",
    "unwrap": "select a box that is not the outermost part",
    "hide": _PART,
    "rotate": _PART,
    "words": "select words, or a part that has some",
    "open-words": "select words of a component that instances don't set yet",
    "open-shown": "select a part of a component that instances don't show or hide yet",
    "open-slot": "select an instance in a component that is no slot yet",
    "exchange": _INSTANCE,
    "detach": _INSTANCE,
    "push-up": _INSTANCE,
    "push-up-variant": _INSTANCE,
    "put-back": _INSTANCE,
    "put-looks-back": _INSTANCE,
    "put-words-back": _INSTANCE,
    "visit": _INSTANCE,
    "return": "go to a component from somewhere",
    "make-states": "select several looks, or the box that holds them",
    "earlier": _PART,
    "later": _PART,
    "push": _IN_A_ROW,
    "spacer": _IN_A_ROW,
    "spread-across": _THREE,
    "spread-down": _THREE,
    "add-axis": _COMPONENT,
    "add-states": "open a component without an axis that the pointer sets",
    "not-offered": "choose a variant that is not the usual one",
    "offer-none": "narrow the reach",
    "take-out": _COMPONENT,
    "widen": _COMPONENT,
    "narrow": _COMPONENT,
    "name-type": "select words of what is on the bench",
    "name-border": "select a box that has lines of one width around it",
    "name-shadow": "select a box that has a shadow",
    "rules": _COMPONENT,
    "sheet-of-states": _COMPONENT,
    "trials": _COMPONENT,
    "fill-list": "select parts of one kind that lie in one box",
    "save-picture": "open a component or a screen",
    "publish": _CONNECTED,
    "take-in": _CONNECTED,
    "look-for-news": _CONNECTED,
    "history": "open a component that comes from a library",
    "work-here": "open a component that a library keeps",
    "make-own": "open a component that comes from a library",
    "colleagues": "begin with the demo's team",
    "look-at-selection": _PART,
    "take-offer": "wait until the status line offers something",
}


def needed(action_id: str) -> str:
    """What an action waits for, as something to do; empty for one that waits for nothing."""
    return _SEVERAL if action_id.startswith("align-") else _NEEDS.get(action_id, "")


def why_off(action: Action) -> str:
    """Why an action can't be done now, as a sentence."""
    return f"“{action.title}” can't be done here yet: {needed(action.id)} first."


# What they are about is what is selected on the bench.
_OF_SELECTION = frozenset({"Parts", "Places", "Variants", "Reach"})
_OF_SELECTION_BESIDES = frozenset(
    {"cut", "copy", "paste", "paste-look", "duplicate", "remove", "neighbours", "same-kind"}
    | {"same-component", "same-fill", "deepest", "draw-box", "draw-text", "draw-ellipse"}
    | {"draw-ring", "draw-line", "draw-icon", "place-picture", "copy-owner", "remove-owner"}
    | {"fill-list", "add-cue"}
)
_LEADING_ELSEWHERE = frozenset({"visit", "return", "gather", "sheet-of-states"})


def is_of_selection(action: Action) -> bool:
    """Whether an action changes or selects what is on the bench: where that is out of sight, it
    must not be done."""
    grouped = action.group in _OF_SELECTION and action.id not in _LEADING_ELSEWHERE
    return grouped or action.id in _OF_SELECTION_BESIDES
