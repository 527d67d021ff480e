"""Tests of what menus, keys and buttons do."""
