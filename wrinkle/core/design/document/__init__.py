"""What a wrinkle is: immutable structs with their declarations, and their text."""
