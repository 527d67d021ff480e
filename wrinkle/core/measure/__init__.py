"""What is not right yet at a cut: checks, each one declaration, and the registry that knows them.

Knows the document and how it is rendered, nothing of files or windows.
"""
