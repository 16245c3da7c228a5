"""Text that runs both ways: the level of each character, and what order that gives on a line."""
