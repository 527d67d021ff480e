"""What can be written of a wrinkle or a piece: one module for each way."""
