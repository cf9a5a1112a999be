"""Values of properties, and places and sizes by hand."""
