"""The effects: each is one declaration beside one pure function; see ``registry``.

They may know pictures and masks, but neither the document nor the window.
"""
