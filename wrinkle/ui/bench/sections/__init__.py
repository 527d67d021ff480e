"""What cards unfold to, and what stands over the stack: rows of settings."""
