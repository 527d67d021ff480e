"""Made sounds: computed, placed about the cut, and mixed."""
