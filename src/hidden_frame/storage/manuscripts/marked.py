"""Reads Markdown (CommonMark 0.31, with notes); nothing outside the file is fetched."""

from __future__ import annotations

from typing import Any

from hidden_frame.storage.manuscripts.bounded import Parsed
from hidden_frame.storage.manuscripts.gathering import Gathering
from hidden_frame.storage.manuscripts.known import listed_style
from hidden_frame.storage.manuscripts.manuscript import LINE_BREAK, Manuscript, RunManner


def read_markdown(text: str, name: str) -> Manuscript:
    """Headings, emphasis, lists, quotes and notes."""
    parsed = Parsed(text)
    reader = _Tokens(parsed.tokens)
    reader.into.left.update(parsed.left)
    return reader.read(name)


class _Tokens:
    """Walks the parser's flat list of tokens."""

    def __init__(self, tokens: list[Any]) -> None:
        self.tokens = tokens
        self.into = Gathering()
        self.lists: list[int | None] = []  # the number from which each counts; None: bullets
        self.begun = False  # whether a numbered list was begun
        self.quotes = 0
        self.level = ""
        self.fresh = False  # whether a list's entry has just begun
        self.anew = False  # whether a list has, and is to count anew
        self.cells = 0
        self.before = ""  # the kind of the token before
        self.notes: dict[int, tuple[Any, ...]] = {}
        self.numbers: dict[int, int] = {}

    def read(self, name: str) -> Manuscript:
        self._gather_notes()
        for token in self.tokens:
            self._block(token)
            self.before = token.type
        return self.into.done(name)

    def _gather_notes(self) -> None:
        """Notes stand at the list's end; their words are needed where they are referred to."""
        inside: int | None = None
        kept = []
        found: dict[int, list[Any]] = {}
        for token in self.tokens:
            if token.type == "footnote_open":
                inside = token.meta["id"]
                found[inside] = []
            elif token.type == "footnote_close":
                inside = None
            elif token.type in ("footnote_block_open", "footnote_block_close"):
                continue
            elif inside is not None:
                if token.type == "inline":
                    found[inside].append(token)
            else:
                kept.append(token)
        self.tokens = kept
        self.notes = {k: tuple(v) for k, v in found.items()}

    def _block(self, token: Any) -> None:
        kind = token.type
        if kind == "heading_open":
            self.level = f"Heading {token.tag[1:]}"
        elif kind == "heading_close":
            self.level = ""
        elif kind in ("bullet_list_open", "ordered_list_open"):
            start = token.attrGet("start")
            first = int(start) if start is not None else 1
            self.lists.append(None if kind.startswith("bullet") else first)
            self.anew = first != 1 or (self.begun and len(self.lists) == 1)
            self.begun = self.begun or kind.startswith("ordered")
        elif kind in ("bullet_list_close", "ordered_list_close"):
            self.lists.pop()
        elif kind == "list_item_open":
            self.fresh = True
        elif kind == "blockquote_open":
            self.quotes += 1
        elif kind == "blockquote_close":
            self.quotes -= 1
        elif kind in ("fence", "code_block"):
            for line in token.content.rstrip("\n").split("\n"):
                self.into.put(line)
                self.into.end("Preformatted")
        elif kind == "tr_open":
            self.cells = 0
        elif kind == "tr_close":
            self.into.end("Table")
        elif kind in ("td_open", "th_open"):
            if self.cells:
                self.into.put("\t")
            self.cells += 1
        elif kind == "inline":
            self._paragraph(token)

    def _paragraph(self, token: Any) -> None:
        if self.cells and token.level >= 4 and self.before in ("td_open", "th_open"):
            self._inline(token)
            return
        style = self.level or ("Quote" if self.quotes else "Normal")
        if self.lists and not self.level:
            number, level = self.lists[-1], len(self.lists)
            style = "List continue"
            if self.fresh:
                style = listed_style(level, number is not None)
                self.into.entry(level, number is not None, number if self.anew else None)
                self.anew = self.anew and number is None
            self.fresh = False
        self._inline(token)
        self.into.end(style)

    def _inline(self, token: Any) -> None:
        depth = dict.fromkeys(("strong", "em", "s"), 0)
        for child in token.children or ():
            kind = child.type
            mark, _, end = kind.rpartition("_")
            look = RunManner(depth["strong"] > 0, depth["em"] > 0, strike=depth["s"] > 0)
            if kind in ("text", "code_inline"):
                self.into.put(child.content, look)
            elif kind == "softbreak":
                self.into.put(" ", look)
            elif kind == "hardbreak":
                self.into.put(LINE_BREAK, look)
            elif mark in depth:
                depth[mark] += 1 if end == "open" else -1
            elif kind == "image":
                self.into.left["pictures elsewhere"] += 1
                self.into.put(child.content, look)
            elif kind == "footnote_ref":
                self._reference(child.meta["id"])

    def _reference(self, note: int) -> None:
        if note not in self.numbers:
            before = self.into.take()
            for n, part in enumerate(self.notes.get(note, ())):
                if n:
                    self.into.put(LINE_BREAK)
                self._inline(part)
            stretches = self.into.take()
            self.into.put_back(before)
            self.into.note(stretches)
            self.numbers[note] = len(self.into.notes)
        else:
            self.into.again(self.numbers[note])
