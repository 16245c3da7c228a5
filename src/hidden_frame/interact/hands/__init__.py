"""What lies under a point, where it snaps, and what comes of a gesture."""
