"""Texts written and dressed; families of fonts."""
