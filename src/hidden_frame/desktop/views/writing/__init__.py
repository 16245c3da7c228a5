"""Writing: the text that is edited, its caret, its keys, and the galley beside the desk."""
