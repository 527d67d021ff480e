"""The command line: the same core without a window.

Exit status: 0 done, 1 the input's fault (one sentence on standard error), 2 wrong usage.
"""
