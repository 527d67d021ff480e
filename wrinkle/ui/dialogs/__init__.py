"""Dialogs that belong to the window as a whole."""
