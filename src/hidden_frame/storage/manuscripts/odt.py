"""Reads .odt (ISO/IEC 26300, OpenDocument text), straight over its XML."""

from __future__ import annotations

import posixpath
from typing import Any, NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts.gathering import Gathering
from hidden_frame.storage.manuscripts.known import known_style, listed_style, told_of
from hidden_frame.storage.manuscripts.manuscript import (
    LINE_BREAK,
    PLAIN,
    Manuscript,
    Pictured,
    Referring,
    RunManner,
    SourceLook,
    Termed,
)
from hidden_frame.storage.manuscripts.odt_styles import (
    OURS,
    QUOTED,
    breaks_before,
    look_of,
    points,
    said_of_letters,
)
from hidden_frame.storage.manuscripts.package import Package, damaged

_NS = "urn:oasis:names:tc:opendocument:xmlns:"
_T, _S, _O = f"{{{_NS}text:1.0}}", f"{{{_NS}style:1.0}}", f"{{{_NS}office:1.0}}"
_D, _TB = f"{{{_NS}drawing:1.0}}", f"{{{_NS}table:1.0}}"
_SVG = f"{{{_NS}svg-compatible:1.0}}"
_PLAIN_LISTS = {"normal", "list", "list contents", "list heading"}
# What a reference to a bookmark tells (ODF 1.2, 7.7.1).
_TELLS = {"page": "folio", "text": "text", "number": "number", "chapter": "number",
          "number-all-superior": "number and text", "number-no-superior": "number"}  # fmt: skip
_XL = "{http://www.w3.org/1999/xlink}"
_BLOCKS = {_T + "section", _T + "index-body", _T + "table-of-content", _O + "text"}


class _Style(NamedTuple):
    """A style: its name as people see it, its parent, and what it says itself: of its characters
    (by the names of `Manner`), and of its lines."""

    name: str
    parent: str
    automatic: bool
    manner: dict[str, Any]
    look: dict[str, Any]
    starts: str


class _Level(NamedTuple):
    """A level of a list: whether it counts, and from where."""

    numbered: bool
    start: int


# Entries of an index: at a place, or where a stretch of text begins.
_ENTRIES = {_T + "alphabetical-index-mark", _T + "alphabetical-index-mark-start"}


def read_odt(data: bytes, name: str) -> Manuscript:
    """Paragraphs, heading levels, emphasis, lists, notes, tabs, breaks, pictures; raises
    `Refusal` for a file that is damaged or encrypted."""
    package = Package(data, name)
    if b"encryption-data" in package.bytes("META-INF/manifest.xml"):
        raise Refusal(f"“{name}” is protected by a password; save it without one and import that.")
    return _Reader(package, name).read()


class _Reader:
    def __init__(self, package: Package, name: str) -> None:
        self.package, self.name = package, name
        self.into = Gathering()
        self.styles: dict[str, _Style] = {}
        self.levels: dict[str, list[_Level]] = {}
        self.listed = False  # whether a list was begun

    def read(self) -> Manuscript:
        content = self.package.xml("content.xml")
        body = content.find(f"{_O}body/{_O}text") if content is not None else None
        if content is None or body is None:
            raise damaged(self.name)
        for root in (self.package.xml("styles.xml"), content):
            if root is not None:
                self._learn(root)
        names = {name: self._name(name) for name, s in self.styles.items() if not s.automatic}
        self.into.looks = {shown: self._look_of(name) for name, shown in names.items()}
        self.into.characters = {
            s.name: self._look_of(n) for n, s in self.styles.items() if not s.automatic
        }
        self._blocks(body)
        return self.into.done(self.name)

    def _learn(self, root: Any) -> None:
        for style in root.iter(_S + "style"):
            above = style.getparent()
            self.styles[style.get(_S + "name", "")] = _Style(
                style.get(_S + "display-name") or style.get(_S + "name", "").replace("_20_", " "),
                style.get(_S + "parent-style-name", ""),
                above is not None and above.tag == _O + "automatic-styles",
                said_of_letters(style.find(_S + "text-properties")),
                look_of(style),
                breaks_before(style.find(_S + "paragraph-properties")),
            )
        for style in root.iter(_T + "list-style"):
            levels = []
            for level in style:
                start = level.get(_T + "start-value", "1")
                numbered = level.tag == _T + "list-level-style-number"
                levels.append(_Level(numbered, int(start) if start.isdecimal() else 1))
            self.levels[style.get(_S + "name", "")] = levels

    def _chain(self, style: str) -> list[_Style]:
        """A style and those that it goes back to."""
        chain, seen = [], set()
        while style in self.styles and style not in seen:
            seen.add(style)
            chain.append(self.styles[style])
            style = self.styles[style].parent
        return chain

    def _name(self, style: str) -> str:
        """The name of the style that people chose: automatic ones go back to their parent."""
        found = next((s.name for s in self._chain(style) if not s.automatic), "")
        if not found and style not in self.styles:
            found = style.replace("_20_", " ")
        plain = {"Standard": "Normal", "Text body": "Normal", "": "Normal"}.get(found, found)
        return known_style(plain) or plain

    def _look_of(self, style: str) -> SourceLook:
        """What a style looks like, with all that it goes back to."""
        look = SourceLook()
        for each in reversed(self._chain(style)):
            look = look._replace(**each.look)
        return look

    def _manner(self, style: str, manner: RunManner) -> RunManner:
        """How characters look within a style; only what automatic ones say is their own: what
        other styles say is theirs, and told by their name."""
        chain = self._chain(style)
        for each in reversed(chain):
            if each.automatic:
                manner = manner._replace(**each.manner)
        named = next((s.name for s in chain if not s.automatic), "")
        return manner._replace(named=named) if named else manner

    def _blocks(self, parent: Any) -> None:
        for block in parent:
            if block.tag in (_T + "p", _T + "h"):
                self._paragraph(block)
            elif block.tag == _T + "list":
                self._list(block, block.get(_T + "style-name", ""))
            elif block.tag == _TB + "table":
                self._table(block)
            elif block.tag in _BLOCKS:
                self._blocks(block)
            elif block.tag == _T + "tracked-changes":
                self.into.left["deleted passages"] += len(list(block.iter(_T + "deletion")))

    def _paragraph(self, block: Any, style: str = "") -> None:
        named = block.get(_T + "style-name", "")
        if block.tag == _T + "h":
            level = block.get(_T + "outline-level", "1")
            style = style or f"Heading {level if level.isdecimal() else 1}"
        starts = next((s.starts for s in self._chain(named) if s.automatic and s.starts), "")
        if starts:
            self.into.start(starts)
        self._inline(block, self._manner(named, PLAIN)._replace(named=""))
        shown = style or self._name(named)
        own = self.styles[named].look if named in self.styles else {}
        edges = (own.get("indent_left") or 0.0, own.get("indent_right") or 0.0)
        self.into.end("Quote" if shown == "Normal" and min(edges) >= QUOTED else shown)

    def _list(self, block: Any, style: str, depth: int = 1) -> None:
        levels = self.levels.get(style, [])
        level = levels[min(depth, len(levels)) - 1] if levels else _Level(False, 1)
        goes_on = block.get(_T + "continue-numbering") == "true" or depth > 1
        anew = level.numbered and self.listed and not goes_on
        self.listed = True
        for entry in block:
            if entry.tag not in (_T + "list-item", _T + "list-header"):
                continue
            start, marked = entry.get(_T + "start-value", ""), entry.tag == _T + "list-header"
            for part in entry:
                if part.tag == _T + "list":
                    self._list(part, part.get(_T + "style-name", style), min(depth + 1, 100))
                elif part.tag not in (_T + "p", _T + "h"):
                    continue
                elif marked:
                    self._paragraph(part, "List continue")
                else:
                    begins = int(start) if start.isdecimal() and 0 < len(start) < 7 else None
                    begins = level.start if begins is None and anew else begins
                    self.into.entry(depth, level.numbered, begins if level.numbered else None)
                    anew, marked = False, True
                    named = self._name(part.get(_T + "style-name", ""))
                    plain = named.lower() in _PLAIN_LISTS or named.lower().startswith("list ")
                    listed = listed_style(depth, level.numbered)
                    self._paragraph(part, listed if plain else named)

    def _table(self, table: Any) -> None:
        self.into.came["tables"] += 1
        for row in table.iter(_TB + "table-row"):
            for n, cell in enumerate(row.findall(_TB + "table-cell")):
                if n:
                    self.into.put("\t")
                for k, part in enumerate(cell.iter(_T + "p", _T + "h")):
                    if k:
                        self.into.put(LINE_BREAK)
                    self._inline(part, PLAIN)
            self.into.end("Table")

    def _inline(self, parent: Any, look: RunManner) -> None:
        # Spaces and ends of lines in a row count as one space (ODF 1.2, 6.1.2).
        self.into.put(_spaces(parent.text), look)
        for child in parent:
            tag = child.tag
            if tag == _T + "span":
                self._inline(child, self._manner(child.get(_T + "style-name", ""), look))
            elif tag == _T + "s":
                count = child.get(_T + "c", "1")
                self.into.put(" " * min(int(count) if count.isdecimal() else 1, 1000), look)
            elif tag == _T + "tab":
                self.into.put("\t", look)
            elif tag == _T + "line-break":
                self.into.put(LINE_BREAK, look)
            elif tag == _T + "note":
                self._note(child)
            elif tag in _ENTRIES:
                self.into.term(_term(child))
            elif tag in (_T + "bookmark", _T + "bookmark-start"):
                self.into.place(child.get(_T + "name", ""))
            elif tag == _T + "bookmark-ref":
                tells = _TELLS.get(child.get(_T + "reference-format", ""), "text")
                said = "".join(child.itertext())
                self.into.refer(Referring(child.get(_T + "ref-name", ""), tells, said))
            elif tag == _O + "annotation":
                self.into.left["comments"] += 1
            elif tag == _D + "frame":
                self._picture(child)
            elif isinstance(tag, str) and tag.startswith(_T):
                self._inline(child, look)  # links, fields, marks: what they show
            self.into.put(_spaces(child.tail), look)

    def _note(self, note: Any) -> None:
        body = note.find(_T + "note-body")
        if body is None:
            return
        before = self.into.take()
        for n, part in enumerate(body.iter(_T + "p", _T + "h")):
            if n:
                self.into.put(LINE_BREAK)
            self._inline(part, PLAIN)
        stretches = self.into.take()
        self.into.put_back(before)
        self.into.note(stretches)

    def _picture(self, frame: Any) -> None:
        for image in frame.iter(_D + "image"):
            target = posixpath.normpath(image.get(_XL + "href", ""))
            data = self.package.bytes(target)
            if data:
                wide, high = (points(frame.get(_SVG + n)) or 72.0 for n in ("width", "height"))
                said = frame.find(_SVG + "desc")
                caption, stands = told_of(said.text or "" if said is not None else "")
                name = posixpath.basename(target)
                self.into.picture(Pictured(name, data, wide, high, caption, stands))
            else:
                self.into.left["pictures elsewhere"] += 1
            return
        for box in frame.iter(_D + "text-box"):
            self.into.left["text boxes"] += 1
            del box


def _spaces(text: str | None) -> str:
    if not text:
        return ""
    parts = text.replace("\t", " ").replace("\n", " ").replace("\r", " ").split(" ")
    words = [p for n, p in enumerate(parts) if p or n in (0, len(parts) - 1)]
    return " ".join(words)


def _term(mark: Any) -> Termed:
    """An entry of an alphabetical index (ODF 1.2, 7.1.20): its first key is the term's group."""
    word, key = mark.get(_T + "string-value", ""), mark.get(_T + "key1", "")
    see, also = (mark.get(f"{{{OURS}}}{name}", "") for name in ("see", "also"))
    reach = mark.get(f"{{{OURS}}}reach", "here")
    return Termed(key or word, word if key else "", see, also, reach)
