"""Frames drawn by other processes and machines: ranges of a piece, by Dask's ``distributed``."""
