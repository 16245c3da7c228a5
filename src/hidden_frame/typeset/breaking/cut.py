"""What a line takes of a segment."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.typeset.shaping import Word

TOLERANCE = 5 / 1024  # points; a sum of powers of two, so that sums with it are exact


class Cut(NamedTuple):
    """A line: tokens first to last, `head` in place of the first, `tail` after the last.

    `skip` is how many characters of the first token stand on the line before,
    `used` how many of the token after the last stand on this one.
    """

    first: int
    last: int
    head: Word | None = None
    tail: Word | None = None
    skip: int = 0
    used: int = 0
