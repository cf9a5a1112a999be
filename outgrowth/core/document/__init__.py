"""The document: frozen values, the property table and how each value is written."""
