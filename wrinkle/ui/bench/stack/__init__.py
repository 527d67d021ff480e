"""The layers, as cards from front to back."""
