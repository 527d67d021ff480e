"""Finding things by words."""

from __future__ import annotations


def holds_words(text: str, words: str) -> bool:
    """Whether a text holds every one of some words, capitals or not; none are in every text."""
    text = text.lower()
    return all(word in text for word in words.lower().split())
