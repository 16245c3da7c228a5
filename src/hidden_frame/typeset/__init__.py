"""Paragraphs in, positioned glyph lines out; knows nothing of pages.

fonts → shaping → segments → breaking → lines → fill → text, a file or folder each.
"""
