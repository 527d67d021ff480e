"""The Bench: where one wrinkle is designed."""
