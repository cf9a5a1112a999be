"""What a careful colleague would point at in a document: pure functions, with what mends it."""
