"""The tests mirror the package; checks against outside sources name them beside the check."""
