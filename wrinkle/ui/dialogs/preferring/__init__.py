"""The dialog of preferences: a page for each kind of choice, which counts at once."""
