"""What File and Edit do, for the wrinkle on the Bench and for the piece."""
