"""A whole piece: clips in running order, what happens at each cut, and what is seen at any time."""
