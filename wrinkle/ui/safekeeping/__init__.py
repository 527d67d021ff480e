"""What survives: unsaved work after a crash, and the last saved versions."""
