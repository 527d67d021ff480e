"""What is chosen for a use of a wrinkle: its dials, direction, strength and lengths, as fields."""
