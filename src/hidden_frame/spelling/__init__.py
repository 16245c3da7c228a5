"""Spelling: the words of a text, the dictionaries that are at hand, and what they say."""
