"""Reads .odt (ISO/IEC 26300, OpenDocument text), straight over its XML."""

from __future__ import annotations

import posixpath
from typing import Any, NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts.manuscript import LINE_BREAK, Gathering, Manuscript, Termed
from hidden_frame.storage.manuscripts.package import Package, damaged

_NS = "urn:oasis:names:tc:opendocument:xmlns:"
_T, _S, _O = f"{{{_NS}text:1.0}}", f"{{{_NS}style:1.0}}", f"{{{_NS}office:1.0}}"
_D, _TB = f"{{{_NS}drawing:1.0}}", f"{{{_NS}table:1.0}}"
_FO = f"{{{_NS}xsl-fo-compatible:1.0}}"
_XL = "{http://www.w3.org/1999/xlink}"
_BLOCKS = {_T + "section", _T + "index-body", _T + "table-of-content", _O + "text"}


class _Style(NamedTuple):
    """A style: its name as people see it, its parent, and what it says of emphasis."""

    name: str
    parent: str
    bold: bool | None
    italic: bool | None
    automatic: bool
    language: str | None


# Entries of an index: at a place, or where a stretch of text begins.
_ENTRIES = {_T + "alphabetical-index-mark", _T + "alphabetical-index-mark-start"}


def read_odt(data: bytes, name: str) -> Manuscript:
    """Paragraphs, heading levels, emphasis, lists, notes, tabs, breaks, pictures; raises
    `Refusal` for a file that is damaged or encrypted."""
    package = Package(data, name)
    if b"encryption-data" in package.bytes("META-INF/manifest.xml"):
        raise Refusal(
            f"“{name}” is protected by a password; save it without one and bring that in."
        )
    return _Reader(package, name).read()


class _Reader:
    def __init__(self, package: Package, name: str) -> None:
        self.package, self.name = package, name
        self.into = Gathering()
        self.styles: dict[str, _Style] = {}
        self.numbered: dict[str, bool] = {}

    def read(self) -> Manuscript:
        content = self.package.xml("content.xml")
        body = content.find(f"{_O}body/{_O}text") if content is not None else None
        if content is None or body is None:
            raise damaged(self.name)
        for root in (self.package.xml("styles.xml"), content):
            if root is not None:
                self._learn(root)
        self._blocks(body)
        return self.into.done(self.name)

    def _learn(self, root: Any) -> None:
        for style in root.iter(_S + "style"):
            text = style.find(_S + "text-properties")
            weight = text.get(_FO + "font-weight") if text is not None else None
            slant = text.get(_FO + "font-style") if text is not None else None
            language = text.get(_FO + "language") if text is not None else None
            country = text.get(_FO + "country") if text is not None else None
            code = None
            if language and language != "none":
                code = f"{language}_{country}" if country and country != "none" else language
            self.styles[style.get(_S + "name", "")] = _Style(
                style.get(_S + "display-name") or style.get(_S + "name", "").replace("_20_", " "),
                style.get(_S + "parent-style-name", ""),
                None if weight is None else weight == "bold" or weight in ("700", "800", "900"),
                None if slant is None else slant in ("italic", "oblique"),
                style.getparent() is not None and style.getparent().tag == _O + "automatic-styles",
                code,
            )
        for style in root.iter(_T + "list-style"):
            first = next(iter(style), None)
            numbered = first is not None and first.tag == _T + "list-level-style-number"
            self.numbered[style.get(_S + "name", "")] = numbered

    def _name(self, style: str) -> str:
        """The name of the style that people chose: automatic ones go back to their parent."""
        seen: set[str] = set()
        while style in self.styles and self.styles[style].automatic and style not in seen:
            seen.add(style)
            style = self.styles[style].parent
        found = self.styles.get(style)
        name = found.name if found is not None else style
        return {"Standard": "Normal", "Text body": "Normal", "": "Normal"}.get(name, name)

    def _look(self, style: str, look: tuple[bool, bool, str | None], deep: bool
              ) -> tuple[bool, bool, str | None]:  # fmt: skip
        """Bold, italic and language within a style; of a paragraph's only its automatic part."""
        chain, seen = [], set()
        while style in self.styles and style not in seen:
            seen.add(style)
            if not deep and not self.styles[style].automatic:
                break
            chain.append(self.styles[style])
            style = self.styles[style].parent
        bold, italic, language = look
        for each in reversed(chain):
            bold = bold if each.bold is None else each.bold
            italic = italic if each.italic is None else each.italic
            language = each.language or language
        return bold, italic, language

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
        self._inline(block, self._look(named, (False, False, None), deep=False))
        self.into.end(style or self._name(named))

    def _list(self, block: Any, style: str) -> None:
        numbered = self.numbered.get(style, False)
        number = 0
        for entry in block:
            if entry.tag not in (_T + "list-item", _T + "list-header"):
                continue
            number += 1
            for n, part in enumerate(entry):
                if part.tag == _T + "list":
                    self._list(part, part.get(_T + "style-name", style))
                elif part.tag in (_T + "p", _T + "h"):
                    if n == 0:
                        self.into.put(f"{number}.\t" if numbered else "•\t")
                        self.into.came["list entries"] += 1
                    self._paragraph(part, "List number" if numbered else "List bullet")

    def _table(self, table: Any) -> None:
        self.into.came["tables"] += 1
        for row in table.iter(_TB + "table-row"):
            for n, cell in enumerate(row.findall(_TB + "table-cell")):
                if n:
                    self.into.put("\t")
                for k, part in enumerate(cell.iter(_T + "p", _T + "h")):
                    if k:
                        self.into.put(LINE_BREAK)
                    self._inline(part, (False, False, None))
            self.into.end("Table")

    def _inline(self, parent: Any, look: tuple[bool, bool, str | None]) -> None:
        # Spaces and ends of lines in a row count as one space (ODF 1.2, 6.1.2).
        self.into.put(_spaces(parent.text), *look)
        for child in parent:
            tag = child.tag
            if tag == _T + "span":
                style = child.get(_T + "style-name", "")
                self._inline(child, self._look(style, look, deep=True))
            elif tag == _T + "s":
                count = child.get(_T + "c", "1")
                self.into.put(" " * min(int(count) if count.isdecimal() else 1, 1000), *look)
            elif tag == _T + "tab":
                self.into.put("\t", *look)
            elif tag == _T + "line-break":
                self.into.put(LINE_BREAK, *look)
            elif tag == _T + "note":
                self._note(child)
            elif tag in _ENTRIES:
                self.into.term(_term(child))
            elif tag == _O + "annotation":
                self.into.left["comments"] += 1
            elif tag == _D + "frame":
                self._picture(child)
            elif isinstance(tag, str) and tag.startswith(_T):
                self._inline(child, look)  # links, fields, marks: what they show
            self.into.put(_spaces(child.tail), *look)

    def _note(self, note: Any) -> None:
        body = note.find(_T + "note-body")
        if body is None:
            return
        before = self.into.take()
        for n, part in enumerate(body.iter(_T + "p", _T + "h")):
            if n:
                self.into.put(LINE_BREAK)
            self._inline(part, (False, False, None))
        stretches = self.into.take()
        self.into.put_back(before)
        self.into.note(stretches)

    def _picture(self, frame: Any) -> None:
        for image in frame.iter(_D + "image"):
            target = posixpath.normpath(image.get(_XL + "href", ""))
            data = self.package.bytes(target)
            if data:
                self.into.picture(posixpath.basename(target), data)
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
    return Termed(key, word) if key else Termed(word)
