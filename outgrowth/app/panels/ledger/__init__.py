"""The ledger: the selection's properties, where each value comes from, and how to put it
back."""

from outgrowth.app.panels.ledger.panel import Ledger

__all__ = ["Ledger"]
