"""A manuscript as Markdown (CommonMark 0.31, with notes)."""

from __future__ import annotations

import re

from hidden_frame.storage.manuscripts.manuscript import (
    LINE_BREAK,
    ManuscriptRun,
    Noted,
    Para,
    Referring,
)

_MARKED = re.compile(r"([\\`*_{}\[\]<>#|~])")
_LINE_HEAD = re.compile(r"^(\s*)([-+=]|\d+[.)])")


def markdown(paragraphs: list[Para]) -> bytes:
    """Headings, emphasis, nested lists, quotes and notes."""
    blocks: list[str] = []
    notes: list[str] = []
    listed = False
    counts: dict[int, int] = {}
    for paragraph in paragraphs:
        words = "".join(_said(s, notes) for s in _joined(paragraph.stretches))
        style = paragraph.style
        if paragraph.level:
            block = _entry(paragraph, words, counts)
        elif style.startswith("Heading ") and style[8:].isdecimal():
            block = "#" * min(int(style[8:]), 6) + " " + words.replace("\\\n", " ")
        elif style == "Quote":
            block = "> " + words.replace("\\\n", "\\\n> ")
        elif style == "List continue" and counts:
            block = " " * _INDENT * max(counts) + words
        else:
            counts.clear()
            block = _LINE_HEAD.sub(r"\1\\\2", words)
        joined = bool(paragraph.level) and listed
        blocks.append(("\n" if joined else "\n\n" if blocks else "") + block)
        listed = bool(paragraph.level)
    foot = "".join(f"\n\n[^{n}]: {words}" for n, words in enumerate(notes, 1))
    return ("".join(blocks) + foot + "\n").encode("utf-8")


_INDENT = 4  # spaces that a list on a deeper level stands in


def _entry(paragraph: Para, words: str, counts: dict[int, int]) -> str:
    """An entry of a list with its sign."""
    level = paragraph.level
    for deeper in [n for n in counts if n > level]:
        del counts[deeper]
    before = counts.setdefault(level, 0)
    if paragraph.numbered:
        counts[level] = paragraph.count_from if paragraph.count_from is not None else before + 1
    sign = f"{counts[level]}." if paragraph.numbered else "-"
    return " " * _INDENT * (level - 1) + f"{sign} ".ljust(_INDENT) + words


def _said(stretch: ManuscriptRun, notes: list[str]) -> str:
    if isinstance(stretch.beside, Noted):
        notes.append("".join(_mark(s) for s in _joined(stretch.beside.words)))
        return f"[^{len(notes)}]"
    if isinstance(stretch.beside, Referring):
        return _mark(ManuscriptRun(stretch.beside.said))
    return _mark(stretch)


def _joined(stretches: tuple[ManuscriptRun, ...]) -> list[ManuscriptRun]:
    """Neighbours that look alike made one: two signs of emphasis would meet between them."""
    found: list[ManuscriptRun] = []
    for stretch in stretches:
        last = found[-1] if found else None
        alike = last is not None and last.beside is None and stretch.beside is None
        if alike and last is not None and _looks(last) == _looks(stretch):
            found[-1] = last._replace(text=last.text + stretch.text)
        else:
            found.append(stretch)
    return found


def _looks(stretch: ManuscriptRun) -> tuple[bool, bool, bool]:
    return stretch.bold, stretch.italic, stretch.strike


def _mark(stretch: ManuscriptRun) -> str:
    words = _MARKED.sub(r"\\\1", stretch.text).replace(LINE_BREAK, "\\\n")
    sign = ("**" if stretch.bold else "") + ("*" if stretch.italic else "")
    open_, close = ("~~" if stretch.strike else "") + sign, sign + ("~~" if stretch.strike else "")
    core = words.strip(" \t")
    if not open_ or not core:
        return words
    head, tail = words[: words.index(core)], words[words.index(core) + len(core) :]
    return f"{head}{open_}{core}{close}{tail}"
