"""Edits: documented functions from a document to a document, a module a subject."""

from outgrowth.core.edits.errors import EditError

__all__ = ["EditError"]
