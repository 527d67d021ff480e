"""How the shipped wrinkles are made: by the same edits that the window makes.

``python -m recipes`` writes them; a test holds the two together.
"""
