"""Geometry of the plane: boxes, matrices, and what is mirrored at the spine."""
