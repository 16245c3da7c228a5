"""Text edited by places: a place is (paragraph, offset), a marker is one character.

>>> text, place = insert(text, (0, 5), "new words")
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.model.text import Marker, Paragraph, Piece, Run, Text

Place = tuple[int, int]
MAX_CHARACTERS = 500_000  # of one frame; a longer text belongs in several
_Cell = tuple[str | Marker, str | None]  # a character or a marker, and its character style


def start_of(text: Text, style: str) -> Text:
    """The text, or one empty paragraph in the style where there is none."""
    return text or (Paragraph(style),)


def length(paragraph: Paragraph) -> int:
    """Characters of a paragraph, a marker counting as one."""
    return sum(len(p.text) if isinstance(p, Run) else 1 for p in paragraph.content)


def total(text: Text) -> int:
    return sum(length(p) + 1 for p in text)


def end_of(text: Text) -> Place:
    return len(text) - 1, length(text[-1])


def _cells(paragraph: Paragraph) -> list[_Cell]:
    cells: list[_Cell] = []
    for piece in paragraph.content:
        if isinstance(piece, Run):
            cells += [(character, piece.style) for character in piece.text]
        else:
            cells.append((replace(piece, style=None), piece.style))
    return cells


def _pieces(cells: Iterable[_Cell]) -> tuple[Piece, ...]:
    pieces: list[Piece] = []
    text, style = "", None
    for what, look in cells:
        if isinstance(what, str) and text and look == style:
            text += what
            continue
        if text:
            pieces.append(Run(text, style))
            text = ""
        if isinstance(what, str):
            text, style = what, look
        else:
            pieces.append(replace(what, style=look))
    if text:
        pieces.append(Run(text, style))
    return tuple(pieces)


def _with(text: Text, index: int, *paragraphs: Paragraph, instead: int = 1) -> Text:
    return (*text[:index], *paragraphs, *text[index + instead :])


def insert(text: Text, place: Place, string: str, style: str | None = None) -> tuple[Text, Place]:
    """Characters typed or pasted at a place; a newline starts a paragraph.

    They take the character style before them unless one is given.
    """
    for number, stretch in enumerate(string.replace("\r\n", "\n").split("\n")):
        if number:
            text, place = split(text, place)
        if stretch:
            index, offset = place
            cells = _cells(text[index])
            look = style if style is not None else (cells[offset - 1][1] if offset else None)
            clean = [(c, look) for c in stretch if c >= " " or c == "\t"]
            cells[offset:offset] = clean
            text = _with(text, index, replace(text[index], content=_pieces(cells)))
            place = (index, offset + len(clean))
    return text, place


def insert_marker(text: Text, place: Place, marker: Marker) -> tuple[Text, Place]:
    """A marker at a place, in the character style before it."""
    index, offset = place
    cells = _cells(text[index])
    look = cells[offset - 1][1] if offset else None
    cells.insert(offset, (replace(marker, style=None), look))
    text = _with(text, index, replace(text[index], content=_pieces(cells)))
    return text, (index, offset + 1)


def split(text: Text, place: Place) -> tuple[Text, Place]:
    """A paragraph divided in two of the same style."""
    index, offset = place
    cells = _cells(text[index])
    first = replace(text[index], content=_pieces(cells[:offset]))
    second = replace(text[index], content=_pieces(cells[offset:]))
    return _with(text, index, first, second), (index + 1, 0)


def delete(text: Text, start: Place, end: Place) -> tuple[Text, Place]:
    """All between two places taken out; the first paragraph's style stays."""
    start, end = min(start, end), max(start, end)
    head = _cells(text[start[0]])[: start[1]]
    tail = _cells(text[end[0]])[end[1] :]
    joined = replace(text[start[0]], content=_pieces(head + tail))
    return _with(text, start[0], joined, instead=end[0] - start[0] + 1), start


def before(text: Text, place: Place) -> Place:
    """The place one character back; the text's start has none before it."""
    index, offset = place
    if offset:
        return index, offset - 1
    return (index - 1, length(text[index - 1])) if index else place


def after(text: Text, place: Place) -> Place:
    """The place one character on."""
    index, offset = place
    if offset < length(text[index]):
        return index, offset + 1
    return (index + 1, 0) if index + 1 < len(text) else place


def word_around(text: Text, place: Place) -> tuple[Place, Place]:
    """The places at which the word around a place starts and ends."""
    index, offset = place
    cells = [c for c, _ in _cells(text[index])]

    def letter(n: int) -> bool:
        cell = cells[n]
        return isinstance(cell, str) and (cell.isalnum() or cell in "’'_")

    first = last = offset
    while first > 0 and letter(first - 1):
        first -= 1
    while last < len(cells) and letter(last):
        last += 1
    return (index, first), (index, last)


def set_paragraph_style(text: Text, first: int, last: int, style: str) -> Text:
    """Paragraphs from first to last in another style."""
    return tuple(replace(p, style=style) if first <= n <= last else p for n, p in enumerate(text))


def set_character_style(text: Text, start: Place, end: Place, style: str | None) -> Text:
    """Everything between two places in a character style, or in none."""
    start, end = min(start, end), max(start, end)
    result = []
    for index, paragraph in enumerate(text):
        cells = _cells(paragraph)
        a = start[1] if index == start[0] else (0 if index > start[0] else len(cells))
        b = end[1] if index == end[0] else (len(cells) if index < end[0] else 0)
        if a < b:
            cells[a:b] = [(what, style) for what, _ in cells[a:b]]
            paragraph = replace(paragraph, content=_pieces(cells))
        result.append(paragraph)
    return tuple(result)


def plain(text: Text, start: Place | None = None, end: Place | None = None) -> str:
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
