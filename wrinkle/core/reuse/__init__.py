"""A wrinkle put on a cut: what is chosen there, and the plain wrinkle that comes of it.

Knows the document and what fills it, nothing of files or windows.
"""
