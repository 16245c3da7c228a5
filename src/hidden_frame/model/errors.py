"""The one kind of error that a user is meant to read."""

from __future__ import annotations


class Refusal(ValueError):
    """Something that can't be done, in one sentence: what, where, what to do.

    >>> raise Refusal("“12m” is not a length; write for example 12mm or 1.5in.")
    Traceback (most recent call last):
    ...
    hidden_frame.model.errors.Refusal: “12m” is not a length; write for example 12mm or 1.5in.
    """
