"""Computation only: knows neither the window, nor files of media, nor what ships.

Layered one way: time, motion, picture, design, render; a package imports only from its left.
"""
