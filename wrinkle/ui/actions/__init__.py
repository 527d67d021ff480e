"""What can be done in the window, as data: menus, buttons, keys and the search read it."""
