"""The window. PyQt6 is imported here and nowhere else."""
