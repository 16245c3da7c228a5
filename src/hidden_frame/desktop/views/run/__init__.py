"""The Run: live thumbnails of all spreads in a row."""
