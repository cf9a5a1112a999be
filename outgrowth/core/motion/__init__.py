"""How a change moves: easings, and the tween between two laid-out scenes."""
