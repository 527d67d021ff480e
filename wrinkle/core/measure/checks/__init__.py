"""The rules that a wrinkle is tested against: each module one subject, with what mends it."""
