"""Reads Markdown (CommonMark 0.31, with notes) and HTML; nothing outside the file is fetched."""

from __future__ import annotations

import re
from typing import Any

from hidden_frame.storage.manuscripts.manuscript import LINE_BREAK, Gathering, Manuscript

_SPACE = re.compile(r"[ \t\r\n\f]+")
_BLOCK = {"p", "div", "blockquote", "pre", "li", "h1", "h2", "h3", "h4", "h5", "h6", "tr", "dt",
          "dd", "figcaption", "address", "section", "article", "header", "footer", "main", "aside",
          "ul", "ol", "dl", "table", "tbody", "thead", "tfoot", "body", "html", "figure", "nav",
          "hr", "center", "form", "fieldset"}  # fmt: skip
_SKIPPED = {"script", "style", "head", "template", "noscript", "iframe", "object", "svg", "math",
            "video", "audio", "canvas", "select", "textarea"}  # fmt: skip
_STYLES = {"blockquote": "Quote", "pre": "Preformatted", "figcaption": "Caption", "tr": "Table"}


def read_markdown(text: str, name: str) -> Manuscript:
    """Headings, emphasis, lists, quotes and notes."""
    from markdown_it import MarkdownIt
    from mdit_py_plugins.footnote import footnote_plugin

    parser = MarkdownIt("commonmark", {"html": False}).enable(["table", "strikethrough"])
    return _Tokens(parser.use(footnote_plugin).parse(text)).read(name)


class _Tokens:
    """Walks the parser's flat list of tokens."""

    def __init__(self, tokens: list[Any]) -> None:
        self.tokens = tokens
        self.into = Gathering()
        self.lists: list[int | None] = []
        self.quotes = 0
        self.level = ""
        self.fresh = False  # whether a list's entry has just begun
        self.cells = 0
        self.notes: dict[int, tuple[Any, ...]] = {}
        self.numbers: dict[int, int] = {}

    def read(self, name: str) -> Manuscript:
        self._gather_notes()
        for token in self.tokens:
            self._block(token)
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
            self.lists.append(None if kind.startswith("bullet") else first - 1)
        elif kind in ("bullet_list_close", "ordered_list_close"):
            self.lists.pop()
        elif kind == "list_item_open":
            self.fresh = True
            if self.lists and self.lists[-1] is not None:
                self.lists[-1] += 1
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
        if self.cells and token.level >= 4 and self._in_table(token):
            self._inline(token)
            return
        style = self.level or ("Quote" if self.quotes else "Normal")
        if self.lists and not self.level:
            number = self.lists[-1]
            style = "List bullet" if number is None else "List number"
            if self.fresh:
                self.into.put("•\t" if number is None else f"{number}.\t")
                self.into.came["list entries"] += 1
            self.fresh = False
        self._inline(token)
        self.into.end(style)

    def _in_table(self, token: Any) -> bool:
        at = self.tokens.index(token)
        return self.tokens[at - 1].type in ("td_open", "th_open")

    def _inline(self, token: Any) -> None:
        bold = italic = 0
        for child in token.children or ():
            kind = child.type
            if kind in ("text", "code_inline"):
                self.into.put(child.content, bold > 0, italic > 0)
            elif kind == "softbreak":
                self.into.put(" ", bold > 0, italic > 0)
            elif kind == "hardbreak":
                self.into.put(LINE_BREAK, bold > 0, italic > 0)
            elif kind in ("strong_open", "strong_close"):
                bold += 1 if kind.endswith("open") else -1
            elif kind in ("em_open", "em_close"):
                italic += 1 if kind.endswith("open") else -1
            elif kind == "image":
                self.into.left["pictures elsewhere"] += 1
                self.into.put(child.content, bold > 0, italic > 0)
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


def read_html(data: bytes | str, name: str) -> Manuscript:
    """Blocks as paragraphs, headings, emphasis, lists; scripts and outside links are left out."""
    from lxml import etree, html

    parser = html.HTMLParser(no_network=True, remove_comments=True, remove_pis=True,
                             encoding=None if isinstance(data, str) else "utf-8")  # fmt: skip
    try:
        root = html.document_fromstring(data or "<p></p>", parser=parser)
    except (etree.ParserError, ValueError):
        return Gathering().done(name)
    reader = _Html()
    reader.walk(root, "Normal", False, False)
    reader.flush("Normal")
    return reader.into.done(name)


class _Html:
    """Walks an HTML tree without recursion deeper than the tree's own limit (lxml: 255)."""

    def __init__(self) -> None:
        self.into = Gathering()
        self.open = False
        self.lists: list[int | None] = []

    def flush(self, style: str) -> None:
        """Ends the open paragraph if anything stands in it."""
        if self.open:
            self.into.end(style)
        self.open = False

    def put(self, text: str | None, bold: bool, italic: bool) -> None:
        if not text:
            return
        clean = _SPACE.sub(" ", text)
        if not self.open:
            clean = clean.lstrip(" ")
        if clean:
            self.into.put(clean, bold, italic)
            self.open = True

    def walk(self, element: Any, style: str, bold: bool, italic: bool) -> None:
        tag = element.tag
        if not isinstance(tag, str) or tag in _SKIPPED:
            if tag in ("script", "iframe", "object"):
                self.into.left["scripts and embedded things"] += 1
            return
        block = tag in _BLOCK
        if block:
            self.flush(style)
        inner = self._style(tag, style)
        bold = bold or tag in ("b", "strong")
        italic = italic or tag in ("i", "em", "cite", "dfn", "var")
        if tag == "br":
            self.into.put(LINE_BREAK, bold, italic)
            self.open = True
        elif tag == "img":
            self.into.left["pictures elsewhere"] += 1
        elif tag in ("ul", "ol"):
            self.lists.append(None if tag == "ul" else 0)
        elif tag == "li":
            self._entry()
        elif tag in ("td", "th") and element.getprevious() is not None:
            self.into.put("\t")
        self.put(element.text, bold, italic)
        for child in element:
            self.walk(child, inner, bold, italic)
            self.put(child.tail, bold, italic)
        if block:
            self.flush(inner)
        if tag in ("ul", "ol"):
            self.lists.pop()

    def _entry(self) -> None:
        number = self.lists[-1] if self.lists else None
        if number is None:
            self.into.put("•\t")
        else:
            self.lists[-1] = number + 1
            self.into.put(f"{number + 1}.\t")
        self.into.came["list entries"] += 1
        self.open = True

    def _style(self, tag: str, style: str) -> str:
        if len(tag) == 2 and tag[0] == "h" and tag[1] in "123456":
            return f"Heading {tag[1]}"
        if tag == "li":
            numbered = bool(self.lists) and self.lists[-1] is not None
            return "List number" if numbered else "List bullet"
        if tag == "p" and style in ("List bullet", "List number", "Quote"):
            return style
        return _STYLES.get(tag, "Normal" if tag in ("p", "div", "body") else style)
