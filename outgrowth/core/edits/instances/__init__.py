"""Instances of components: placed, exchanged, detached, pushed up; what they may set."""

from outgrowth.core.edits.instances.detaching import detach
from outgrowth.core.edits.instances.exchanging import (
    Exchanged,
    exchange,
    exchange_everywhere,
    exchange_many,
)
from outgrowth.core.edits.instances.placing import place_instance
from outgrowth.core.edits.instances.pushing_up import push_up

__all__ = [
    "Exchanged",
    "detach",
    "exchange",
    "exchange_everywhere",
    "exchange_many",
    "place_instance",
    "push_up",
]
