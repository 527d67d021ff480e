"""What the Bench asks in a window of its own."""
