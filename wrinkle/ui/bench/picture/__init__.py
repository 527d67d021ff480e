"""The pictures of the Bench, and what is dragged on them."""
