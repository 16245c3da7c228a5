"""The commands that open no window, over the same core as the window."""

from hidden_frame.headless import sizes, spelling, stories
from hidden_frame.headless.commands import app

__all__ = ["app", "sizes", "spelling", "stories"]
