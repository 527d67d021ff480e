"""Pure functions from a wrinkle to another one: what the window does to it."""
