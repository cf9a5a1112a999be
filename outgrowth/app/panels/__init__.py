"""The panels around the bench."""
