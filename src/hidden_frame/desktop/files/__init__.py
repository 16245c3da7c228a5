"""Files opened, saved, watched, kept for a crash and found again."""
