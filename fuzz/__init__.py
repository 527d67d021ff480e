"""Changed files for every reader, on demand: ``./run fuzz --seconds N``."""
