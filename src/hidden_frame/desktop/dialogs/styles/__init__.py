"""Paragraph and character styles: made, changed, based on each other, deleted."""
