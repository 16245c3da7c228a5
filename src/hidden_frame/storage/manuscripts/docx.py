"""Reads .docx (ISO/IEC 29500-1, WordprocessingML), straight over its XML."""

from __future__ import annotations

import posixpath
import re
from typing import Any

from hidden_frame.storage.manuscripts.docx_styles import (
    is_indented,
    manner_of,
    outlined,
    style_looks,
    style_names,
)
from hidden_frame.storage.manuscripts.docx_styles import on as _on
from hidden_frame.storage.manuscripts.docx_styles import value as _value
from hidden_frame.storage.manuscripts.gathering import Gathering
from hidden_frame.storage.manuscripts.known import listed_style, reference_of, told_of
from hidden_frame.storage.manuscripts.manuscript import (
    LINE_BREAK,
    PLAIN,
    Manuscript,
    Pictured,
    RunManner,
    Termed,
)
from hidden_frame.storage.manuscripts.package import Package, damaged

_W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
_R = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}"
_A = "{http://schemas.openxmlformats.org/drawingml/2006/main}"
_V = "{urn:schemas-microsoft-com:vml}"
_REL = "{http://schemas.openxmlformats.org/package/2006/relationships}"
_MC = "{http://schemas.openxmlformats.org/markup-compatibility/2006}"
# What holds runs and is looked through; insertions and moves count as accepted.
_THROUGH = {_W + n for n in ("hyperlink", "ins", "moveTo", "smartTag", "sdt", "sdtContent",
                             "fldSimple", "customXml", "bdo", "dir")}  # fmt: skip
_QUOTED = r'(?:"((?:\\"|[^"])*)"|“([^”]*)”)'
_ENTRY = re.compile(rf"\s*XE\s+{_QUOTED}", re.IGNORECASE)
_INSTEAD = re.compile(rf"\\t\s+{_QUOTED}")
_REACH = re.compile(r'\\f\s+["“]([be])["”]')  # ours: where a range begins and ends
_GONE = {_W + n for n in ("del", "moveFrom")}
_WP = "{http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing}"
_SIDES = ("right page", "left page")
_PLAIN_LISTS = {"normal", "list paragraph", "list", "body text", "text body", "standard"}
_EMU = 12_700  # English metric units to a point
# On which page a section goes on (17.18.79).
_SECTIONS = {"continuous": "", "oddPage": "right page", "evenPage": "left page"}


def read_docx(data: bytes, name: str) -> Manuscript:
    """Paragraphs, heading levels, emphasis, lists, notes, tabs, breaks, pictures; raises
    `Refusal` for a file that is damaged or protected."""
    return _Reader(Package(data, name), name).read()


class _Reader:
    def __init__(self, package: Package, name: str) -> None:
        self.package, self.name = package, name
        self.into = Gathering()
        self.main = next((p for p in ("word/document.xml", "word/document2.xml")
                          if p in package.parts), "word/document.xml")  # fmt: skip
        styles = package.xml("word/styles.xml")
        self.styles = style_names(styles, "paragraph")
        self.characters = style_names(styles, "character")
        self.into.looks = style_looks(styles, "paragraph", self.styles)
        self.into.characters = style_looks(styles, "character", self.characters)
        numbering = package.xml("word/numbering.xml")
        self.lists, self.starts = _list_formats(numbering), _list_starts(numbering)
        self.style = "Normal"  # of the paragraph that is being read
        self.targets = self._relations("word/_rels/document.xml.rels")
        self.footnotes = self._notes("footnotes", "footnote")
        self.endnotes = self._notes("endnotes", "endnote")
        self.last: dict[int, str] = {}  # the numbered list that was on each level last
        self.counts: dict[tuple[str, int], int] = {}  # how far each list has counted
        self.sections: list[str] = []  # where those that are still to come start
        self.instruction = ""  # of the field that is being read
        self.field = ""  # what it shows, while it is a reference
        self.reading = 0  # of how many references what they show is being read

    def read(self) -> Manuscript:
        root = self.package.xml(self.main)
        body = root.find(_W + "body") if root is not None else None
        if body is None:
            raise damaged(self.name)
        self.sections = [_SECTIONS.get(_value(s.find(_W + "type")), "page")
                         for s in body.iter(_W + "sectPr")]  # fmt: skip
        self._section("")
        self._blocks(body)
        comments = self.package.xml("word/comments.xml")
        if comments is not None:
            self.into.left["comments"] += len(comments.findall(_W + "comment"))
        return self.into.done(self.name)

    def _relations(self, part: str) -> dict[str, str]:
        root = self.package.xml(part)
        if root is None:
            return {}
        return {
            r.get("Id", ""): posixpath.normpath(posixpath.join("word", r.get("Target", "")))
            for r in root.iter(_REL + "Relationship")
            if r.get("TargetMode") != "External"
        }

    def _notes(self, part: str, word: str) -> dict[str, Any]:
        root = self.package.xml(f"word/{part}.xml")
        if root is None:
            return {}
        return {
            n.get(_W + "id", ""): n
            for n in root.findall(_W + word)
            if n.get(_W + "type") in (None, "normal")
        }

    def _blocks(self, parent: Any) -> None:
        for block in parent:
            if block.tag == _W + "p":
                self._paragraph(block)
            elif block.tag == _W + "tbl":
                self._table(block)
            elif block.tag in _THROUGH:
                self._blocks(block)
            elif block.tag in _GONE:
                self.into.left["deleted passages"] += 1

    def _table(self, table: Any) -> None:
        """A row a paragraph, its cells parted by tabs."""
        self.into.came["tables"] += 1
        for row in table.iter(_W + "tr"):
            cells = []
            for cell in row.findall(_W + "tc"):
                for n, paragraph in enumerate(cell.iter(_W + "p")):
                    if n:
                        self.into.put(LINE_BREAK)
                    self._runs(paragraph)
                cells.append(self.into.take())
            for n, cell in enumerate(cells):
                if n:
                    self.into.put("\t")
                for stretch in cell:
                    self.into.add(stretch)
            self.into.end("Table")

    def _paragraph(self, paragraph: Any) -> None:
        properties = paragraph.find(_W + "pPr")
        style = "Normal"
        if properties is not None:
            named = properties.find(_W + "pStyle")
            if named is not None:
                style = self.styles.get(named.get(_W + "val", ""), named.get(_W + "val", "Normal"))
            listed = self._list(properties, style)
            style = listed or outlined(style, properties.find(_W + "outlineLvl"))
            if style == "Normal" and is_indented(properties.find(_W + "ind")):
                style = "Quote"
            if _on(properties.find(_W + "pageBreakBefore")):
                self.into.start("page")
        self.style = style
        self._runs(paragraph)
        self.into.end(style)
        section = properties.find(_W + "sectPr") if properties is not None else None
        if section is not None:
            self._section("page")

    def _section(self, usual: str) -> None:
        """What follows starts as its section does, which says so at its end (17.6.22)."""
        starts = self.sections.pop(0) if self.sections else ""
        self.into.start(starts if starts in _SIDES or usual else "")

    def _list(self, properties: Any, style: str) -> str:
        """The style of a list's paragraph, which is told as its entry; "" outside of lists."""
        at = properties.find(_W + "numPr")
        if at is None:
            if not style.lower().startswith("list ") or "continue" in style.lower():
                return ""
            ending = style.split()[-1]
            number = style.rstrip(" 0123456789")
            level = int(ending) - 1 if ending.isdecimal() and 0 < int(ending) < 10 else 0
            numbered = "number" in style.lower()
        else:
            number = _value(at.find(_W + "numId"))
            depth = _value(at.find(_W + "ilvl"))
            level = int(depth) if depth.isdecimal() else 0
            if number in ("", "0") or style.lower().startswith("heading "):
                return ""
            numbered = self.lists.get((number, level), "bullet") not in ("bullet", "none")
        self.into.entry(level + 1, numbered, self._count(number, level) if numbered else None)
        plain = style.lower() in _PLAIN_LISTS or style.lower().startswith("list ")
        return listed_style(level + 1, numbered) if plain else style

    def _count(self, number: str, level: int) -> int | None:
        """The number from which an entry counts; None where it goes on from the one before it, as
        it does on a level that begins anew under a higher one."""
        known = self.last.get(level)
        for deeper in [n for n in self.last if n > level]:
            del self.last[deeper]
        self.last[level] = number
        before = self.counts.get((number, level))
        said = self.starts.get((number, level))
        begins = None
        if before is None:
            begins = said if known is None else said or 1
        elif known is not None and known != number:
            begins = before + 1
        self.counts[number, level] = begins or (before or 0) + 1
        return begins

    def _runs(self, parent: Any) -> None:
        for child in parent:
            if child.tag == _W + "fldSimple":
                self._simple(child)
            elif child.tag == _W + "bookmarkStart":
                self.into.place(child.get(_W + "name", ""))
            elif child.tag == _W + "r":
                self._run(child)
            elif child.tag in _THROUGH:
                self._runs(child)
            elif child.tag in _GONE:
                self.into.left["deleted passages"] += 1

    def _simple(self, field: Any) -> None:
        """A field with what it shows inside of it."""
        instruction = field.get(_W + "instr", "")
        refers = reference_of(instruction)
        if refers is None:
            self._entry(instruction)
            self._runs(field)
        else:
            said = "".join(t.text or "" for t in field.iter(_W + "t"))
            self.into.refer(refers._replace(said=said))

    def _run(self, run: Any) -> None:
        look = self._manner(run.find(_W + "rPr"))
        for piece in run:
            tag = piece.tag
            if tag == _W + "fldChar":
                self._field(piece.get(_W + "fldCharType", ""))
            elif tag == _W + "instrText":
                self.instruction += piece.text or ""
            elif self.reading:  # what a reference shows is worked out here
                self.field += piece.text or "" if tag == _W + "t" else ""
            elif tag == _W + "t":
                self.into.put(piece.text or "", look)
            elif tag in (_W + "tab", _W + "ptab"):
                self.into.put("\t", look)
            elif tag in (_W + "br", _W + "cr"):
                kind = piece.get(_W + "type")
                if kind in (None, "textWrapping"):
                    self.into.put(LINE_BREAK, look)
                elif kind == "page":
                    self._break_page()
            elif tag == _W + "noBreakHyphen":
                self.into.put("\u2011", look)
            elif tag == _W + "softHyphen":
                self.into.put("\u00ad", look)
            elif tag == _W + "sym":
                self._symbol(piece, look)
            elif tag in (_W + "footnoteReference", _W + "endnoteReference"):
                self._reference(piece)
            elif tag in (_W + "drawing", _W + "pict", _W + "object", _MC + "AlternateContent"):
                self._picture(piece)

    def _field(self, kind: str) -> None:
        """A field begins, goes on to what it shows, or ends; an entry of an index is taken, and
        so is a reference."""
        refers = reference_of(self.instruction)
        if kind == "separate" and refers is not None:
            self.reading, self.field = 1, ""
        elif kind == "end":
            if refers is not None and self.reading:
                self.into.refer(refers._replace(said=self.field))
            else:
                self._entry(self.instruction)
            self.reading = 0
        if kind in ("begin", "end"):
            self.instruction = ""

    def _break_page(self) -> None:
        """What follows stands on a new page: the next paragraph, or the rest of this one."""
        if self.into.open:
            self.into.end("Normal" if not self.style else self.style)
        self.into.start("page")

    def _manner(self, properties: Any | None) -> RunManner:
        """What a run says itself of its characters."""
        if properties is None:
            return PLAIN
        named = self.characters.get(_value(properties.find(_W + "rStyle")), "")
        return manner_of(properties)._replace(named=named)

    def _entry(self, instruction: str) -> None:
        """An XE field (17.16.5.71): “term:sub-term”, and what is shown instead of a page."""
        found = _ENTRY.match(instruction)
        if found is None:
            return
        term, _, sub = (found[1] or found[2] or "").replace('\\"', '"').partition(":")
        told = _INSTEAD.search(instruction)
        instead = (told[1] or told[2] or "").replace('\\"', '"').strip() if told else ""
        also = instead.lower().startswith("see also ")
        see = re.sub(r"^see (also )?", "", instead, flags=re.IGNORECASE)
        reach = _REACH.search(instruction)
        reaches = {"b": "begins", "e": "ends"}.get(reach[1] if reach else "", "here")
        self.into.term(Termed(term, sub, "" if also else see, see if also else "", reaches))

    def _symbol(self, piece: Any, look: RunManner) -> None:
        code = piece.get(_W + "char", "")
        try:
            number = int(code, 16)
        except ValueError:
            return
        # Symbol fonts put their signs into the private use area.
        self.into.put(chr(number - 0xF000) if 0xF020 <= number <= 0xF0FF else chr(number), look)

    def _reference(self, piece: Any) -> None:
        known = self.footnotes if piece.tag == _W + "footnoteReference" else self.endnotes
        note = known.get(piece.get(_W + "id", ""))
        if note is None:
            return
        before = self.into.take()
        for n, paragraph in enumerate(note.iter(_W + "p")):
            if n:
                self.into.put(LINE_BREAK)
            self._runs(paragraph)
        stretches = self.into.take()
        self.into.put_back(before)
        self.into.note(stretches)

    def _picture(self, piece: Any) -> None:
        found = [b.get(_R + "embed") for b in piece.iter(_A + "blip")]
        found += [i.get(_R + "id") for i in piece.iter(_V + "imagedata")] if not found else []
        extent = next(piece.iter(_WP + "extent"), None)
        size = [int(extent.get(n, "0")) / _EMU for n in ("cx", "cy")] if extent is not None else []
        about = next(piece.iter(_WP + "docPr"), None)
        caption, stands = told_of(about.get("descr", "") if about is not None else "")
        for target in dict.fromkeys(self.targets.get(f or "", "") for f in found):
            data = self.package.bytes(target) if target else b""
            if data:
                name = posixpath.basename(target)
                wide, high = size if len(size) == 2 and all(size) else (72.0, 72.0)
                self.into.picture(Pictured(name, data, wide, high, caption, stands))
            else:
                self.into.left["pictures elsewhere"] += 1


def _list_formats(root: Any | None) -> dict[tuple[str, int], str]:
    """How each level of each list is counted."""
    return {key: _value(level.find(_W + "numFmt")) for key, level in _levels(root).items()}


def _list_starts(root: Any | None) -> dict[tuple[str, int], int]:
    """The number from which each level of each list counts, if it is another than 1, or the list
    says itself that it begins anew."""
    found = {}
    for key, level in _levels(root).items():
        start = _value(level.find(_W + "start"))
        if start.isdecimal() and len(start) < 7 and int(start) > 1:
            found[key] = int(start)
    for number in root.findall(_W + "num") if root is not None else ():
        for override in number.findall(_W + "lvlOverride"):
            start = _value(override.find(_W + "startOverride"))
            depth = override.get(_W + "ilvl", "")
            if start.isdecimal() and depth.isdecimal() and len(start) < 7:
                found[number.get(_W + "numId", ""), int(depth)] = max(int(start), 1)
    return found


def _levels(root: Any | None) -> dict[tuple[str, int], Any]:
    """The levels of each list, by the list's number and the level from 0."""
    if root is None:
        return {}
    kinds: dict[str, dict[int, Any]] = {}
    for abstract in root.findall(_W + "abstractNum"):
        levels = {}
        for level in abstract.findall(_W + "lvl"):
            number = level.get(_W + "ilvl", "0")
            if number.isdecimal():
                levels[int(number)] = level
        kinds[abstract.get(_W + "abstractNumId", "")] = levels
    return {
        (num.get(_W + "numId", ""), level): kind
        for num in root.findall(_W + "num")
        for level, kind in kinds.get(_value(num.find(_W + "abstractNumId")), {}).items()
    }
