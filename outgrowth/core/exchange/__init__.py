"""Files in and out. Open formats only."""
