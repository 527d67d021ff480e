"""From a wrinkle, its slots and a frame number to an image."""
