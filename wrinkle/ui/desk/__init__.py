"""What the places work on: the documents, what is looked at, the clipboard, the workers.

Knows no place and no widget.
"""
