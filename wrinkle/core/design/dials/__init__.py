"""What dials make of a wrinkle, and how they are made."""
