"""Sounds that are computed from nothing but numbers: what a sample is, and what can be made."""
