"""The desk: a spread or a master, and what a hand does to it."""
