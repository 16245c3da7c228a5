"""Text edited by places: a place is (paragraph, offset), a marker is one character.

>>> from hidden_frame.model.text import Paragraph, Run
>>> text, place = insert((Paragraph("body", (Run("old words"),)),), (0, 4), "new ")
>>> plain(text), place
('old new words', (0, 8))
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable

from msgspec.structs import replace

from hidden_frame.edit.text.steps import end_of, length
from hidden_frame.model.text import (
    Alignment,
    Anchor,
    IndexMark,
    Look,
    Marker,
    Note,
    Paragraph,
    Piece,
    Run,
    Starts,
    TabStop,
    Text,
    TextPlace,
)

MAX_STORY = 20_000_000  # of one story
MAX_CHARACTERS = 500_000  # of one frame; a longer text belongs in several
_Dress = tuple[str | None, Look | None]  # a character style, and what goes beyond it
Mark = Marker | Anchor | IndexMark | Note  # what counts as one character
_Cell = tuple[str | Mark, _Dress]  # a character or a mark, and how it is dressed
_PLAIN: _Dress = (None, None)
# What ends a paragraph in a text from elsewhere (Unicode UAX #13, newline guidelines); a
# vertical tab is a line break there.
_NEW_PARAGRAPH = re.compile("\r\n|[\n\r\x0c\x85\u2029]")
_CONTROL = re.compile("[\x00-\x08\x0e-\x1f\x7f-\x84\x86-\x9f]")
_SURROGATE = re.compile("[\ud800-\udfff]")


def start_of(text: Text, style: str) -> Text:
    """The text, or one empty paragraph in the style where there is none."""
    return text or (Paragraph(style),)


def total(text: Text) -> int:
    return sum(length(p) + 1 for p in text)


def _cells(paragraph: Paragraph) -> list[_Cell]:
    cells: list[_Cell] = []
    for piece in paragraph.content:
        if isinstance(piece, Run):
            dress = (piece.style, piece.look)
            cells += [(character, dress) for character in piece.text]
        else:
            cells.append((replace(piece, style=None, look=None), (piece.style, piece.look)))
    return cells


def _pieces(cells: Iterable[_Cell]) -> tuple[Piece, ...]:
    pieces: list[Piece] = []
    text: list[str] = []  # joined at once: one character after the other would be quadratic
    dress = _PLAIN
    for what, worn in cells:
        if isinstance(what, str) and text and worn == dress:
            text.append(what)
            continue
        if text:
            pieces.append(Run("".join(text), *dress))
            text = []
        if isinstance(what, str):
            text, dress = [what], worn
        else:
            pieces.append(replace(what, style=worn[0], look=worn[1]))
    if text:
        pieces.append(Run("".join(text), *dress))
    return tuple(pieces)


def _with(text: Text, index: int, *paragraphs: Paragraph, instead: int = 1) -> Text:
    return (*text[:index], *paragraphs, *text[index + instead :])


def insert(
    text: Text, place: TextPlace, string: str, style: str | None = None
) -> tuple[Text, TextPlace]:
    """Characters typed or pasted at a place; a newline starts a paragraph.

    They are dressed as what stands before them, or in the character style given.  Controls
    are not taken in, and half of a surrogate pair becomes U+FFFD, as no file can hold it.
    """
    for number, stretch in enumerate(_NEW_PARAGRAPH.split(_clean(string))):
        if number:
            text, place = split(text, place)
        if stretch:
            index, offset = place
            quick = _spliced(text[index], offset, stretch) if style is None else None
            if quick is not None:
                text = _with(text, index, quick)
                place = (index, offset + len(stretch))
                continue
            cells = _cells(text[index])
            before = cells[offset - 1][1] if offset else _PLAIN
            dress = (style, None) if style is not None else (before[0], _onward(Run("", *before)))
            cells[offset:offset] = [(c, dress) for c in stretch]
            text = _with(text, index, replace(text[index], content=_pieces(cells)))
            place = (index, offset + len(stretch))
    return text, place


def _clean(string: str) -> str:
    return _SURROGATE.sub("\ufffd", _CONTROL.sub("", string.replace("\x0b", "\u2028")))


def _spliced(paragraph: Paragraph, offset: int, string: str) -> Paragraph | None:
    """A paragraph with characters put into the run before a place; None if they need more
    than that.  Typing into a long text is mostly this."""
    at = 0
    for n, piece in enumerate(paragraph.content):
        size = len(piece.text) if isinstance(piece, Run) else 1
        if at + size >= offset:
            inside = isinstance(piece, Run) and (offset > at or (piece.style, piece.look) == _PLAIN)
            if not inside or not isinstance(piece, Run) or _onward(piece) is not piece.look:
                return None
            cut = offset - at
            grown = replace(piece, text=piece.text[:cut] + string + piece.text[cut:])
            content = (*paragraph.content[:n], grown, *paragraph.content[n + 1 :])
            return replace(paragraph, content=content)
        at += size
    return None


def _onward(run: Run) -> Look | None:
    """The look of what is typed behind a run: another form is that of its own letters alone."""
    look = run.look
    if look is None or not look.alternate:
        return look
    plain = replace(look, alternate=None)
    return None if plain == Look() else plain


def insert_marker(text: Text, place: TextPlace, marker: Mark) -> tuple[Text, TextPlace]:
    """A marker, an anchor or an index mark at a place, dressed as what stands before it."""
    index, offset = place
    cells = _cells(text[index])
    dress = cells[offset - 1][1] if offset else _PLAIN
    cells.insert(offset, (replace(marker, style=None, look=None), dress))
    text = _with(text, index, replace(text[index], content=_pieces(cells)))
    return text, (index, offset + 1)


def object_at(text: Text, place: TextPlace) -> Mark | None:
    """The marker, anchor or index mark right behind a place; None if a character is, or nothing."""
    index, offset = place
    at = 0
    for piece in text[index].content if 0 <= index < len(text) else ():
        if at == offset and not isinstance(piece, Run):
            return piece
        at += len(piece.text) if isinstance(piece, Run) else 1
        if at > offset:
            break
    return None


def split(text: Text, place: TextPlace) -> tuple[Text, TextPlace]:
    """A paragraph divided in two of the same style; what refers to it refers to its first words."""
    index, offset = place
    whole, cells = text[index], _cells(text[index])
    first, second = whole, _unnamed(whole)
    if cells and not offset:
        first, second = _unnamed(whole), whole
    first = replace(
        first, content=_pieces(cells[:offset]), starts=whole.starts, count_from=whole.count_from
    )
    second = replace(second, content=_pieces(cells[offset:]), starts=None, count_from=None)
    return _with(text, index, first, second), (index + 1, 0)


def _unnamed(paragraph: Paragraph) -> Paragraph:
    """A paragraph of which nothing is said that is said of one alone."""
    return replace(
        paragraph, short="", goes_to="", place="", place_name="", starts=None, count_from=None
    )


def delete(text: Text, start: TextPlace, end: TextPlace) -> tuple[Text, TextPlace]:
    """All between two places taken out.  Where something is left of the first paragraph its style
    stays; where whole paragraphs go, those that are left keep their own."""
    start, end = min(start, end), max(start, end)
    head = _cells(text[start[0]])[: start[1]]
    tail = _cells(text[end[0]])[end[1] :]
    whole = end[0] > start[0] and not head and (tail or not end[1])
    kept = text[end[0] if whole else start[0]]
    joined = replace(kept, content=_pieces(head + tail))
    return _with(text, start[0], joined, instead=end[0] - start[0] + 1), start


def cut_out(text: Text, start: TextPlace, end: TextPlace) -> Text:
    """What stands between two places, as a text of its own: looks, styles and markers kept."""
    start, end = min(start, end), max(start, end)
    found = []
    for number in range(start[0], end[0] + 1):
        cells = _cells(text[number])
        first = start[1] if number == start[0] else 0
        last = end[1] if number == end[0] else len(cells)
        found.append(replace(text[number], content=_pieces(cells[first:last])))
    return tuple(found)


def put_in(text: Text, place: TextPlace, piece: Text) -> tuple[Text, TextPlace]:
    """A text put into another: its first paragraph goes on the one it is put into, the last one
    is gone on with; those between, and the last, keep their own styles."""
    if not piece:
        return text, place
    index, offset = place
    cells = _cells(text[index])
    head, tail = cells[:offset], cells[offset:]
    first, last = _cells(piece[0]), _cells(piece[-1])
    if len(piece) == 1:
        content = _pieces([*head, *first, *tail])
        return _with(text, index, replace(text[index], content=content)), (
            index, offset + len(first))  # fmt: skip
    opening, closing = text[index] if head else piece[0], piece[-1]
    if tail or not last:  # what it is put into goes on
        closing = _unnamed(text[index]) if head else text[index]
    made = (
        replace(opening, content=_pieces([*head, *first])),
        *piece[1:-1],
        replace(closing, content=_pieces([*last, *tail])),
    )
    return _with(text, index, *made), (index + len(piece) - 1, len(last))


def set_paragraph_style(text: Text, first: int, last: int, style: str) -> Text:
    """Paragraphs from first to last in another style."""
    return tuple(replace(p, style=style) if first <= n <= last else p for n, p in enumerate(text))


def set_character_style(text: Text, start: TextPlace, end: TextPlace, style: str | None) -> Text:
    """Everything between two places in a character style, or in none; plain beyond it."""
    return _dressed(text, start, end, lambda dress: (style, None))


def set_look(text: Text, start: TextPlace, end: TextPlace, **changes: object) -> Text:
    """Everything between two places with some of its look changed; None follows the style.

    >>> text = (Paragraph("body", (Run("new words"),)),)
    >>> [c.look is None for c in set_look(text, (0, 0), (0, 3), italic=True)[0].content]
    [False, True]
    """

    def changed(dress: _Dress) -> _Dress:
        look = replace(dress[1] or Look(), **changes)
        return dress[0], None if look == Look() else look

    return _dressed(text, start, end, changed)


def dress_at(text: Text, place: TextPlace) -> tuple[str | None, Look]:
    """The character style and the look of what stands before a place."""
    index, offset = place
    cells = _cells(text[index])
    if not cells:
        return None, Look()
    style, look = cells[max(offset - 1, 0)][1]
    return style, look or Look()


def set_alignment(text: Text, first: int, last: int, alignment: Alignment | None) -> Text:
    """Paragraphs from first to last aligned otherwise than their style says, or as it says."""
    return tuple(
        replace(p, alignment=alignment) if first <= n <= last else p for n, p in enumerate(text)
    )


def set_tabs(text: Text, first: int, last: int, tabs: tuple[TabStop, ...] | None) -> Text:
    """Paragraphs from first to last with tab stops of their own, in order, or their style's."""
    stops = None if tabs is None else tuple(sorted(tabs, key=_where_it_stands))
    return tuple(replace(p, tabs=stops) if first <= n <= last else p for n, p in enumerate(text))


def set_starts(text: Text, index: int, starts: Starts | None) -> Text:
    """A paragraph that starts somewhere of its own, or where its style says."""
    return _with(text, index, replace(text[index], starts=starts))


def set_count_from(text: Text, index: int, number: int | None) -> Text:
    """A paragraph of a numbered style that counts from a number, or goes on."""
    return _with(text, index, replace(text[index], count_from=number))


def set_short(text: Text, index: int, short: str) -> Text:
    """A paragraph with a short form for running heads."""
    return _with(text, index, replace(text[index], short=short))


def _where_it_stands(stop: TabStop) -> float:
    return float("inf") if stop.position is None else stop.position


def split_ends(text: Text, place: TextPlace) -> tuple[Text, TextPlace]:
    """A tab to the right edge at a place, so that the paragraph's line has two ends; a second one
    gives it a middle.  On facing pages the first end stands inside, and changes sides with its page
    (R4), unless the paragraph says otherwise."""
    index = place[0]
    text, place = insert(text, place, "\t")
    end = TabStop(None, "right")
    several = plain((text[index],)).count("\t") > 1
    tabs = (TabStop(None, "centre"), end) if several else (end,)
    own = text[index].alignment
    alignment: Alignment | None = "inside" if own in (None, "left") else own
    return _with(text, index, replace(text[index], tabs=tabs, alignment=alignment)), place


def _dressed(text: Text, start: TextPlace, end: TextPlace, new: Callable[[_Dress], _Dress]) -> Text:
    start, end = min(start, end), max(start, end)
    result = []
    for index, paragraph in enumerate(text):
        cells = _cells(paragraph)
        a = start[1] if index == start[0] else (0 if index > start[0] else len(cells))
        b = end[1] if index == end[0] else (len(cells) if index < end[0] else 0)
        if a < b:
            cells[a:b] = [(what, new(dress)) for what, dress in cells[a:b]]
            paragraph = replace(paragraph, content=_pieces(cells))
        result.append(paragraph)
    return tuple(result)


def plain(text: Text, start: TextPlace | None = None, end: TextPlace | None = None) -> str:
    """The characters between two places (all of it by default), markers left out."""
    start = start if start is not None else (0, 0)
    end = end if end is not None else end_of(text)
    start, end = min(start, end), max(start, end)
    lines = []
    for index in range(start[0], end[0] + 1):
        cells = _cells(text[index])
        a = start[1] if index == start[0] else 0
        b = end[1] if index == end[0] else len(cells)
        lines.append("".join(c for c, _ in cells[a:b] if isinstance(c, str)))
    return "\n".join(lines)


def without_markers(text: Text, gone: Callable[[Marker], bool]) -> Text:
    """The text without those of its markers that are meant."""
    return tuple(
        replace(p, content=tuple(c for c in p.content if not (isinstance(c, Marker) and gone(c))))
        for p in text
    )


def without_characters(text: Text, gone: str) -> Text:
    """The text without any of these characters."""
    table = dict.fromkeys(map(ord, gone))
    return tuple(
        replace(
            p,
            content=tuple(
                replace(c, text=c.text.translate(table)) if isinstance(c, Run) else c
                for c in p.content
            ),
        )
        for p in text
    )
