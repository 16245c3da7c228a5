"""Hidden Frame: multi-page publications on reusable master pages."""

__version__ = "0.1.0"
