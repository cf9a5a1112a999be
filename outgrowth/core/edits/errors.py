"""The one error an edit raises."""


class EditError(ValueError):
    """The edit cannot be done; the message is a sentence for the user."""
