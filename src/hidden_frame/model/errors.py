"""The one kind of error that a user is meant to read."""

from __future__ import annotations


class Refusal(ValueError):
    """Something that can't be done, in one sentence: what, where, what to do.

    `field` names the argument that is at fault, so that a form can say it where it was typed; ""
    if it is none of them alone.

    >>> raise Refusal("“12m” is not a length; write for example 12mm or 1.5in.")
    Traceback (most recent call last):
    ...
    hidden_frame.model.errors.Refusal: “12m” is not a length; write for example 12mm or 1.5in.
    >>> Refusal("0 pages can't be added; give a number from 1.", field="count").field
    'count'
    """

    def __init__(self, sentence: str = "", *, field: str = "") -> None:
        super().__init__(sentence)
        self.field = field
