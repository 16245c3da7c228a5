"""Scenes onto a QPainter."""
