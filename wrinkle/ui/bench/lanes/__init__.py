"""What stands on the frame axis of the Bench: strip, lanes, traces."""
