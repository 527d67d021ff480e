"""The place where what was designed leaves as files."""
