"""Pieces as OpenTimelineIO files, in and out."""
