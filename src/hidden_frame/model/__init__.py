"""The publication as a tree of immutable values; no behaviour beyond look-ups."""
