"""What the program brings to the desktop: menu entry, icon, file types, thumbnails, manual page."""
