"""The masters board: the whole family as live thumbnails, from base to derived."""
