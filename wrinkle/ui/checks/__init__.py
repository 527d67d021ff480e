"""The Checks: what is wrong at a cut, said, shown and mended."""
