"""How the shipped wrinkles are made: by the same edits that the window makes.

``python -m wrinkle.demo.recipes`` writes them; a test holds the two together.
"""
