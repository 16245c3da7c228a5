"""The file format, and pictures brought in from outside."""
