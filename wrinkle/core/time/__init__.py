"""Frame rates, seconds, frames and timecode, all exact. Knows nothing else of the project."""
