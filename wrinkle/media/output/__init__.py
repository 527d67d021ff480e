"""What leaves as a file: one value for what is written, and a declaration for each format."""
