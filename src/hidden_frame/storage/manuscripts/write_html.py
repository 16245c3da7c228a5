"""A manuscript as HTML, with notes by their roles (DPUB-ARIA 1.1)."""

from __future__ import annotations

import base64
from html import escape
from xml.sax.saxutils import quoteattr

from hidden_frame.storage.manuscripts.hypertext import OURS
from hidden_frame.storage.manuscripts.manuscript import (
    LINE_BREAK,
    ManuscriptRun,
    Noted,
    Para,
    Pictured,
    Referring,
    Termed,
)

_BREAKS = {"page": "page", "right page": "recto", "left page": "verso"}


def html(paragraphs: list[Para], title: str) -> bytes:
    """A page that needs nothing else: pictures are in it."""
    notes: list[str] = []
    body = _Lists()
    for paragraph in paragraphs:
        body.put(paragraph, "".join(_stretch(s, notes) for s in paragraph.stretches))
    if notes:
        rows = "\n".join(f'<li id="note-{n}"><p>{w}</p></li>' for n, w in enumerate(notes, 1))
        body.close(0)
        body.rows.append(f'<section role="doc-endnotes"><ol>\n{rows}\n</ol></section>')
    page = (
        '<!DOCTYPE html>\n<html><head><meta charset="utf-8">'
        f'<meta name="generator" content="{OURS}"><title>{escape(title)}</title>'
        "<style>body { white-space: pre-wrap }</style></head><body>\n"
        + "\n".join(body.done())
        + "\n</body></html>\n"
    )
    return page.encode("utf-8", "replace")


class _Lists:
    """Blocks one after the other, those of lists within these."""

    def __init__(self) -> None:
        self.rows: list[str] = []
        self._open: list[str] = []  # the elements of the lists that are open
        self._begun: set[int] = set()  # levels on which a numbered list was open

    def close(self, level: int) -> None:
        """Only so many levels are open."""
        while len(self._open) > level:
            self.rows.append(f"</{self._open.pop()}>")

    def put(self, paragraph: Para, words: str) -> None:
        level = paragraph.level
        if not level and not (paragraph.style == "List continue" and self._open):
            self.close(0)
        kind = "ol" if paragraph.numbered else "ul"
        if level:
            self.close(level)
            if len(self._open) == level and (
                self._open[-1] != kind or paragraph.count_from is not None
            ):
                self.close(level - 1)
            while len(self._open) < level:
                last = len(self._open) == level - 1
                self._begin(kind if last else "ul", paragraph.count_from if last else None)
        self.rows.append(_block(paragraph, words))

    def _begin(self, kind: str, start: int | None) -> None:
        """A list; a numbered one that does not say where it counts from goes on."""
        said = f' start="{start}"' if start is not None else ""
        self.rows.append(f"<{kind}{said}>")
        self._open.append(kind)

    def done(self) -> list[str]:
        self.close(0)
        return self.rows


def _block(paragraph: Para, words: str) -> str:
    style = paragraph.style
    said = f" id={quoteattr(paragraph.place)}" if paragraph.place else ""
    if paragraph.starts:
        said += f' style="break-before: {_BREAKS.get(paragraph.starts, "page")}"'
    if style.startswith("Heading ") and style[8:] in "123456" and not paragraph.level:
        return f"<h{style[8:]}{said}>{words}</h{style[8:]}>"
    named = f" class={quoteattr(style)}{said}"
    if paragraph.level:
        return f"<li{named}>{words}</li>"
    if style == "Quote":
        return f"<blockquote><p{said}>{words}</p></blockquote>"
    return f"<p{said if style == 'Normal' else named}>{words}</p>"


def _stretch(stretch: ManuscriptRun, notes: list[str]) -> str:
    match stretch.beside:
        case Noted(words):
            notes.append("".join(_look(s) for s in words))
            number = len(notes)
            return f'<a href="#note-{number}" role="doc-noteref"><sup>{number}</sup></a>'
        case Referring(place, tells, said):
            target = quoteattr(f"#{place}")
            return f"<a href={target} data-tells={quoteattr(tells)}>{escape(said)}</a>"
        case Termed():
            names = ("term", "sub", "see", "also", "reach")
            told = zip(names, stretch.beside, strict=True)
            said = " ".join(f"data-{name}={quoteattr(word)}" for name, word in told if word)
            return f"<span {said}></span>"
        case Pictured(name, data, width, height, caption, stands):
            source = f"data:image/{_kind(data)};base64,{base64.b64encode(data).decode()}"
            return (
                f'<img src="{source}" alt={quoteattr(caption)} title={quoteattr(name)} '
                f'data-width="{width:.4f}" data-height="{height:.4f}" data-stands="{stands}">'
            )
    return _look(stretch)


def _kind(data: bytes) -> str:
    """The kind of a picture's bytes, by how they begin."""
    for head, kind in (
        (b"\x89PNG", "png"),
        (b"\xff\xd8", "jpeg"),
        (b"II", "tiff"),
        (b"MM", "tiff"),
    ):
        if data.startswith(head):
            return kind
    return "svg+xml"


def _look(stretch: ManuscriptRun) -> str:
    words = escape(stretch.text, quote=False).replace(LINE_BREAK, "<br>")
    for tag, on in (
        ("sup", stretch.raised == "superior"), ("sub", stretch.raised == "inferior"),
        ("u", stretch.underline), ("s", stretch.strike), ("em", stretch.italic),
        ("strong", stretch.bold),
    ):  # fmt: skip
        words = f"<{tag}>{words}</{tag}>" if on else words
    said = f" class={quoteattr(stretch.named)}" if stretch.named else ""
    if stretch.language:
        said += f" lang={quoteattr(stretch.language.replace('_', '-'))}"
    if stretch.small_capitals:
        said += ' style="font-variant: small-caps"'
    return f"<span{said}>{words}</span>" if said else words
