"""Sentences for one and for several things: whole ones, so that they can be translated."""

from __future__ import annotations

from hidden_frame.model.number_format import grouped


def plural(count: int, one: str, several: str, **named: object) -> str:
    """The sentence for one thing, or the one for several (and for none); `{n}` in it is the
    number, other names in braces are the arguments of that name.

    >>> plural(1, "{n} page follows “{master}”", "{n} pages follow “{master}”", master="Text")
    '1 page follows “Text”'
    >>> plural(1200, "{n} page", "{n} pages")
    '1,200 pages'
    """
    return (one if count == 1 else several).format(n=grouped(count), **named)


def pages_counted(count: int) -> str:
    """So many pages.

    >>> pages_counted(1), pages_counted(0)
    ('1 page', '0 pages')
    """
    return plural(count, "{n} page", "{n} pages")
