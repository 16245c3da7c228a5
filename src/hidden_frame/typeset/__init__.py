"""Paragraphs in, positioned glyph lines out; knows nothing of pages.

fonts → shaping → tokens → breaking → layout, a file each.
"""
