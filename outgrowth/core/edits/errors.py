"""The one error an edit raises."""

from __future__ import annotations

from outgrowth.core.document.refusal import Refusal

EditError = Refusal
"""The edit cannot be done; the message is a sentence for the user. It is the whole family: what
a record refuses when it is made, an edit refuses too."""
