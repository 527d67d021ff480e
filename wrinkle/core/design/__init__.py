"""The document: a wrinkle, its layers, settings and slots; its file; the edits; the undo list.

Knows time, motion and picture, nothing of rendering or windows.
"""
