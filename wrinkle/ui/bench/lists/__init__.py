"""Lists to choose from: effects, colour tables, pictures."""
