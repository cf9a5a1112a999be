"""From a document to a scene: the cascade, its record (the ladder), and the resolved tree."""
