"""What the window is around its places: head, foot, and what happens to the window itself."""
