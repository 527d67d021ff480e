"""How the suite is run: modules spread over processes, quietly, each told of in one line."""
