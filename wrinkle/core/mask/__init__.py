"""Masks: coverage from outlines, and carrying them along by the motion of the picture."""
