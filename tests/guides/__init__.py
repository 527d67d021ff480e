"""Pages that are written from what ships."""
