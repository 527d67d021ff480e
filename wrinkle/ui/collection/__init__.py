"""The Collection: what is kept, as moving pictures."""
