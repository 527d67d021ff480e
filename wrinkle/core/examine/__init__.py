"""Wrinkles on clips, and cuts of pieces, as they are examined.

Knows measuring, uses and pieces, nothing of files or windows.
"""
