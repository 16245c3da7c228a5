"""Scenes to PDF and PNG."""
