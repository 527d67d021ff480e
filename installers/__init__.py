"""Builds what is installed: a wheel, and a package for Debian and its descendants."""
