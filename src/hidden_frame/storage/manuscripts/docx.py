"""Reads .docx (ISO/IEC 29500-1, WordprocessingML), straight over its XML."""

from __future__ import annotations

import posixpath
import re
from typing import Any

from hidden_frame.storage.manuscripts.manuscript import LINE_BREAK, Gathering, Manuscript, Termed
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
_ENTRY = re.compile(r'\s*XE\s+["“]((?:\\"|[^"”])*)["”]', re.IGNORECASE)
_INSTEAD = re.compile(r'\\t\s+["“]([^"”]*)["”]')
_GONE = {_W + n for n in ("del", "moveFrom")}


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
        self.styles = _style_names(package.xml("word/styles.xml"))
        self.lists = _list_formats(package.xml("word/numbering.xml"))
        self.targets = self._relations("word/_rels/document.xml.rels")
        self.footnotes = self._notes("footnotes", "footnote")
        self.endnotes = self._notes("endnotes", "endnote")
        self.counts: dict[tuple[str, int], int] = {}
        self.instruction = ""  # of the field that is being read

    def read(self) -> Manuscript:
        root = self.package.xml(self.main)
        body = root.find(_W + "body") if root is not None else None
        if body is None:
            raise damaged(self.name)
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
        style, level = "Normal", None
        if properties is not None:
            named = properties.find(_W + "pStyle")
            if named is not None:
                style = self.styles.get(named.get(_W + "val", ""), named.get(_W + "val", "Normal"))
            level = properties.find(_W + "outlineLvl")
            kind = self._list(properties, style)
            if kind:
                style = kind
        if level is not None and not style.lower().startswith("heading"):
            number = level.get(_W + "val", "9")
            if number.isdecimal() and int(number) < 9:
                style = f"Heading {int(number) + 1}"
        self._runs(paragraph)
        self.into.end(style)

    def _list(self, properties: Any, style: str) -> str:
        """The style of a list's paragraph, its sign put before it; "" outside of lists."""
        at = properties.find(_W + "numPr")
        if at is None:
            if not style.lower().startswith("list "):
                return ""
            number, level = style, 0
            bullet = "number" not in style.lower()
        else:
            number = _value(at.find(_W + "numId"))
            depth = _value(at.find(_W + "ilvl"))
            level = int(depth) if depth.isdecimal() else 0
            if number in ("", "0"):
                return ""
            bullet = self.lists.get((number, level), "bullet") in ("bullet", "none")
        if bullet:
            self.into.put("•\t")
            self.into.came["list entries"] += 1
            return "List bullet"
        key = (number, level)
        self.counts[key] = self.counts.get(key, 0) + 1
        for other in [k for k in self.counts if k[0] == number and k[1] > level]:
            del self.counts[other]
        self.into.put(f"{self.counts[key]}.\t")
        self.into.came["list entries"] += 1
        return "List number"

    def _runs(self, parent: Any) -> None:
        for child in parent:
            if child.tag == _W + "fldSimple":
                self._entry(child.get(_W + "instr", ""))
            if child.tag == _W + "r":
                self._run(child)
            elif child.tag in _THROUGH:
                self._runs(child)
            elif child.tag in _GONE:
                self.into.left["deleted passages"] += 1

    def _run(self, run: Any) -> None:
        look = _look(run.find(_W + "rPr"))
        for piece in run:
            tag = piece.tag
            if tag == _W + "t":
                self.into.put(piece.text or "", *look)
            elif tag in (_W + "tab", _W + "ptab"):
                self.into.put("\t", *look)
            elif tag in (_W + "br", _W + "cr"):
                if piece.get(_W + "type") in (None, "textWrapping"):
                    self.into.put(LINE_BREAK, *look)
            elif tag == _W + "noBreakHyphen":
                self.into.put("\u2011", *look)
            elif tag == _W + "softHyphen":
                self.into.put("\u00ad", *look)
            elif tag == _W + "sym":
                self._symbol(piece, look)
            elif tag == _W + "fldChar":
                self._field(piece.get(_W + "fldCharType", ""))
            elif tag == _W + "instrText":
                self.instruction += piece.text or ""
            elif tag in (_W + "footnoteReference", _W + "endnoteReference"):
                self._reference(piece)
            elif tag in (_W + "drawing", _W + "pict", _W + "object", _MC + "AlternateContent"):
                self._picture(piece)

    def _field(self, kind: str) -> None:
        """A field begins or ends; one that is an entry of an index is taken."""
        if kind == "end":
            self._entry(self.instruction)
        if kind in ("begin", "end"):
            self.instruction = ""

    def _entry(self, instruction: str) -> None:
        """An XE field (17.16.5.71): “term:sub-term”, and what is shown instead of a page."""
        found = _ENTRY.match(instruction)
        if found is None:
            return
        term, _, sub = found[1].replace('\\"', '"').partition(":")
        told = _INSTEAD.search(instruction)
        instead = told[1].strip() if told else ""
        also = instead.lower().startswith("see also ")
        see = re.sub(r"^see (also )?", "", instead, flags=re.IGNORECASE)
        self.into.term(Termed(term, sub, "" if also else see, see if also else ""))

    def _symbol(self, piece: Any, look: tuple[bool, bool, str | None]) -> None:
        code = piece.get(_W + "char", "")
        try:
            number = int(code, 16)
        except ValueError:
            return
        # Symbol fonts put their signs into the private use area.
        self.into.put(chr(number - 0xF000) if 0xF020 <= number <= 0xF0FF else chr(number), *look)

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
        for target in dict.fromkeys(self.targets.get(f or "", "") for f in found):
            data = self.package.bytes(target) if target else b""
            if data:
                self.into.picture(posixpath.basename(target), data)
            else:
                self.into.left["pictures elsewhere"] += 1


def _value(element: Any | None) -> str:
    return element.get(_W + "val", "") if element is not None else ""


def _look(properties: Any | None) -> tuple[bool, bool, str | None]:
    """Bold, italic and language that a run sets itself."""
    if properties is None:
        return False, False, None
    language = properties.find(_W + "lang")
    code = language.get(_W + "val") if language is not None else None
    return _on(properties.find(_W + "b")), _on(properties.find(_W + "i")), code


def _on(element: Any | None) -> bool:
    """A toggle property (17.3.2): there, and not switched off."""
    return element is not None and element.get(_W + "val", "1") not in ("0", "false", "off", "none")


def _style_names(root: Any | None) -> dict[str, str]:
    """Each style's name by its id; headings by their level, whatever their language."""
    if root is None:
        return {}
    found = {}
    for style in root.iter(_W + "style"):
        if style.get(_W + "type") != "paragraph":
            continue
        name = _value(style.find(_W + "name")) or style.get(_W + "styleId", "")
        if name.lower().startswith("heading "):
            name = name[:1].upper() + name[1:]
        found[style.get(_W + "styleId", "")] = name
    return found


def _list_formats(root: Any | None) -> dict[tuple[str, int], str]:
    """How each level of each list is counted."""
    if root is None:
        return {}
    kinds: dict[str, dict[int, str]] = {}
    for abstract in root.findall(_W + "abstractNum"):
        levels = {}
        for level in abstract.findall(_W + "lvl"):
            number = level.get(_W + "ilvl", "0")
            if number.isdecimal():
                levels[int(number)] = _value(level.find(_W + "numFmt"))
        kinds[abstract.get(_W + "abstractNumId", "")] = levels
    return {
        (num.get(_W + "numId", ""), level): kind
        for num in root.findall(_W + "num")
        for level, kind in kinds.get(_value(num.find(_W + "abstractNumId")), {}).items()
    }
