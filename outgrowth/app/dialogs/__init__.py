"""Windows over the window: find or do, shortcuts."""
