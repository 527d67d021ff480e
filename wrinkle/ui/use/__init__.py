"""A wrinkle on other clips, outside the Bench."""
