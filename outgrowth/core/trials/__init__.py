"""What happens when real content comes: a part drawn with many contents in many rooms, and what
breaks. Pure functions of a document."""
