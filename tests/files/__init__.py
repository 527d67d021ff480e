"""Files on the disk."""
