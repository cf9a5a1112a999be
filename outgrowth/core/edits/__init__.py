"""Edits: documented functions from a document to a document, a module a subject."""

from outgrowth.core.refusal import Refusal

__all__ = ["Refusal"]
