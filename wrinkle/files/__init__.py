"""Files on the disk: read within a limit, written whole; and the file of a wrinkle."""
