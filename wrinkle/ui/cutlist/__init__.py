"""The Cut list: the clips of a piece in running order, and what happens at each cut."""
