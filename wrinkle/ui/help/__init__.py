"""What teaches: the manual in the window, and the first steps on the real one."""
