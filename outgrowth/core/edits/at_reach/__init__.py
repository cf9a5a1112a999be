"""What every act means where edits reach only some variants: one place decides.

Commands ask for a change of parts at a `Reach`; what lies outside of it is drawn as before, or
the act is one of those that cannot differ from variant to variant (a node has one place in the
tree), and its command says so. A twin, shown only within the reach, does such an act there alone.
"""

from outgrowth.core.edits.at_reach.deciding import Decider, decider, stated_at
from outgrowth.core.edits.at_reach.exchanging import exchange_at
from outgrowth.core.edits.at_reach.kept import KeptKind, KeptValue, kept_values, put_kept_back
from outgrowth.core.edits.at_reach.opening import (
    decided_by,
    fitting_properties,
    is_shown,
    open_at,
    plain_said,
    tie,
)
from outgrowth.core.edits.at_reach.order import can_differ, move_parts, sequence
from outgrowth.core.edits.at_reach.presence import (
    keep_to_reach,
    remove_parts,
    show_everywhere,
    twins,
)
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed, is_within
from outgrowth.core.edits.at_reach.standing import Standing, holder_of, keeps_standing, set_standing
from outgrowth.core.edits.at_reach.values import put_instances_back, set_values

__all__ = [
    "Decider",
    "KeptKind",
    "KeptValue",
    "Reach",
    "Standing",
    "can_differ",
    "decided_by",
    "decider",
    "exchange_at",
    "fitting_properties",
    "holder_of",
    "is_narrowed",
    "is_shown",
    "is_within",
    "keep_to_reach",
    "keeps_standing",
    "kept_values",
    "move_parts",
    "open_at",
    "plain_said",
    "put_instances_back",
    "put_kept_back",
    "remove_parts",
    "sequence",
    "set_standing",
    "set_values",
    "show_everywhere",
    "stated_at",
    "tie",
    "twins",
]
