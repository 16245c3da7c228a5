"""The Shelf: masters, details and styles."""
