"""Pages of the documents that are written from what ships."""
