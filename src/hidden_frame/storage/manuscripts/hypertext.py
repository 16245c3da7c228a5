"""Reads HTML (WHATWG, Living Standard); nothing outside the file is fetched."""

from __future__ import annotations

import base64
import binascii
import re
from typing import Any

from hidden_frame.storage.manuscripts.gathering import Gathering
from hidden_frame.storage.manuscripts.known import listed_style
from hidden_frame.storage.manuscripts.manuscript import (
    LEVELS,
    LINE_BREAK,
    PLAIN,
    Manuscript,
    Pictured,
    Referring,
    RunManner,
    Termed,
)

OURS = "Hidden Frame"  # the generator that a page of ours names
_SPACE = re.compile(r"[ \t\r\n\f]+")
_BLOCK = {"p", "div", "blockquote", "pre", "li", "h1", "h2", "h3", "h4", "h5", "h6", "tr", "dt",
          "dd", "figcaption", "address", "section", "article", "header", "footer", "main", "aside",
          "ul", "ol", "dl", "table", "tbody", "thead", "tfoot", "body", "html", "figure", "nav",
          "hr", "center", "form", "fieldset"}  # fmt: skip
_SKIPPED = {"script", "style", "head", "template", "noscript", "iframe", "object", "svg", "math",
            "video", "audio", "canvas", "select", "textarea"}  # fmt: skip
_STYLES = {"blockquote": "Quote", "pre": "Preformatted", "figcaption": "Caption", "tr": "Table"}
# Between their parts stands nothing but what their markup is laid out with.
_HOLDERS = {"table", "tbody", "thead", "tfoot", "tr", "ul", "ol", "dl", "html"}
_PARAGRAPHS = {"p", "li", "h1", "h2", "h3", "h4", "h5", "h6"}
_MOST_ATTRIBUTES = 256
# A tag that begins (HTML, 13.1.2.1), read once from left to right whatever is wrong with it.
_VALUE = r"""=\s*+(?:"[^"]*+(?:"|\Z)|'[^']*+(?:'|\Z))?+"""
_TAG = re.compile(rf"</?[a-zA-Z](?:[^>=]++|{_VALUE})*+(?:>|\Z)")
_ATTRIBUTE = re.compile(rf"[\s/\"'][^\s/>=\"']++(?:\s*+{_VALUE}[^\s>]*+)?+")
_UNSPOKEN = re.compile(r"<(script|style)\b.*?(?:</\1|\Z)", re.IGNORECASE | re.DOTALL)
_DEEPEST = 200  # elements in each other
# What elements make of their characters.
_MANNERS: dict[str, dict[str, Any]] = {
    **{tag: {"bold": True} for tag in ("b", "strong")},
    **{tag: {"italic": True} for tag in ("i", "em", "cite", "dfn", "var")},
    **{tag: {"strike": True} for tag in ("s", "strike", "del")},
    **{tag: {"underline": True} for tag in ("u", "ins")},
    "sup": {"raised": "superior"}, "sub": {"raised": "inferior"},
}  # fmt: skip
# What a style attribute makes of them (CSS Fonts 4, CSS Text Decoration 3): weights from 600 on are
# bold, which word processors and browsers agree on.
_RULES = re.compile(r"([a-z-]+)\s*:\s*([^;]+)", re.IGNORECASE)
_BOLD = {"bold": True, "bolder": True, "normal": False, "lighter": False}
_PAGE = re.compile(r"(?:page-)?break-before:\s*(page|always|recto|right|verso|left)")
_STARTS = {"recto": "right page", "right": "right page", "verso": "left page", "left": "left page"}
_DATA = re.compile(r"data:image/[a-z+.-]+;base64,", re.IGNORECASE)


def read_html(data: bytes | str, name: str) -> Manuscript:
    """Blocks as paragraphs, headings, emphasis, lists, notes (DPUB-ARIA 1.1: doc-noteref and
    doc-endnotes); scripts and what stands elsewhere are left out."""
    from lxml import etree

    text = data if isinstance(data, str) else data.decode("utf-8", "replace")
    try:
        root, whole = _tree(_TAG.sub(_with_fewer_attributes, text))
        if not whole:
            root, _ = _tree(_TAG.sub(" ", _UNSPOKEN.sub(" ", text)))
    except (etree.ParserError, ValueError):
        return Gathering().done(name)
    reader = _Html(root)
    if not whole:
        reader.into.left[LEVELS] += 1
    reader.walk(root, "Normal", PLAIN)
    reader.flush("Normal")
    return reader.into.done(name)


def _tree(text: str) -> tuple[Any, bool]:
    """The elements of a page, and whether all of it is in them: libxml2 goes 256 levels deep, and
    2,048 if it is asked to; what is deeper it leaves out."""
    from lxml import html

    parser = html.HTMLParser(no_network=True, remove_comments=True, remove_pis=True,
                             huge_tree=True, encoding="utf-8")  # fmt: skip
    page = text.encode("utf-8", "replace") or b"<p></p>"
    root = html.document_fromstring(page, parser=parser)
    return root, not any("depth" in error.message for error in parser.error_log)


def _with_fewer_attributes(tag: re.Match[str]) -> str:
    """A tag without the attributes beyond any that are meant: libxml2 is quadratic in them."""
    if len(tag[0]) < _MOST_ATTRIBUTES * 4:
        return tag[0]
    found = list(_ATTRIBUTE.finditer(tag[0]))
    if len(found) <= _MOST_ATTRIBUTES:
        return tag[0]
    return tag[0][: found[_MOST_ATTRIBUTES].start()] + ">"


class _Html:
    """Walks an HTML tree without recursion deeper than the tree's own limit (lxml: 255)."""

    def __init__(self, root: Any) -> None:
        self.into = Gathering()
        self.open = False
        self.lists: list[int | None] = []  # from which number each counts; None: bullets
        self.begun = self.anew = self.fresh = False
        self.depth = 0
        self.said = False  # whether words stand in the cell already
        self.cells = 0  # how deep one is in cells of a table, whose blocks are lines of one row
        self.ours = any(
            m.get("name") == "generator" and m.get("content") == OURS for m in root.iter("meta")
        )
        self.notes: dict[str, Any] = {}
        for part in root.iter():
            if isinstance(part.tag, str) and part.get("role") in ("doc-endnotes", "doc-footnote"):
                self.notes |= {e.get("id"): e for e in part.iter() if e.get("id")}
        self.numbers: dict[str, int] = {}

    def flush(self, style: str) -> None:
        """Ends the open paragraph if anything stands in it."""
        if self.open:
            self.into.end(style)
        self.open = False

    def put(self, text: str | None, manner: RunManner) -> None:
        if not text:
            return
        clean = text if self.ours else _SPACE.sub(" ", text)
        if not self.open:
            clean = "" if self.ours and not clean.strip("\n") else clean
            clean = clean if self.ours else clean.lstrip(" ")
        if self.cells and not self.said:
            clean = clean.lstrip(" ")
        if clean:
            self.into.put(clean, manner)
            self.open = self.said = True

    def _cell(self, element: Any) -> None:
        """A cell begins behind the one before it, or behind as many as that one spans."""
        before = element.getprevious()
        if before is not None:
            span = before.get("colspan", "1")
            self.into.put("\t" * (int(span) if span.isdecimal() and len(span) < 3 else 1))
            self.open = True
        self.cells += 1
        self.said = False

    def walk(self, element: Any, style: str, manner: RunManner) -> None:
        tag = element.tag
        if not isinstance(tag, str) or tag in _SKIPPED:
            if tag in ("script", "iframe", "object"):
                self.into.left["scripts and embedded things"] += 1
            return
        if element.get("role") in ("doc-endnotes", "doc-footnote") and self.notes:
            return
        if self._beside(element, tag):
            return
        block = tag in _BLOCK and not self.cells
        if block:
            self.flush(style)
            self._begin(element)
        elif tag in _BLOCK and self.said:
            self.into.put(LINE_BREAK, manner)
            self.said = False
        inner, manner = self._style(element, tag, style), self._manner(element, tag, manner)
        if tag == "br":
            self.into.put(LINE_BREAK, manner)
            self.open = True
        elif tag in ("ul", "ol"):
            self._list(element, tag)
        elif tag == "li":
            self.fresh = True
        elif tag in ("td", "th"):
            self._cell(element)
        if self.ours and tag in _PARAGRAPHS:  # also where nothing stands in it
            self.open = True
        if block and tag in ("li", "p") and self.lists and self.fresh and self._speaks(element):
            self._entry()
            inner = listed_style(len(self.lists), self.lists[-1] is not None)
        self.depth += 1
        if self.depth < _DEEPEST:
            holds = tag in _HOLDERS
            self.put(_spoken(element.text, holds), manner)
            for child in element:
                self.walk(child, inner, manner)
                self.put(_spoken(child.tail, holds), manner)
        else:  # deeper ones look like nothing, but what they say is there
            self.put("".join(element.itertext()), manner)
        self.depth -= 1
        if tag in ("td", "th"):
            self.cells -= 1
        if block:
            self.flush(inner)
        if tag in ("ul", "ol"):
            self.lists.pop()

    def _speaks(self, element: Any) -> bool:
        """Whether an entry of a list begins with words of its own, not with a block."""
        if (element.text or "").strip():
            return True
        first = next(iter(element), None)
        return first is None or first.tag not in _BLOCK

    def _begin(self, element: Any) -> None:
        """What an element says of the paragraph that it begins."""
        found = _PAGE.search(element.get("style", ""))
        if found:
            self.into.start(_STARTS.get(found[1], "page"))
        if element.get("id"):
            self.into.place(element.get("id"))

    def _list(self, element: Any, tag: str) -> None:
        start = element.get("start", "")
        first = int(start) if start.isdecimal() and 0 < len(start) < 7 else 1
        self.lists.append(None if tag == "ul" else max(first, 1))
        again = bool(start) if self.ours else first != 1 or (self.begun and len(self.lists) == 1)
        self.anew = tag == "ol" and again
        self.begun = self.begun or tag == "ol"

    def _entry(self) -> None:
        number = self.lists[-1]
        self.into.entry(len(self.lists), number is not None, number if self.anew else None)
        self.anew = self.fresh = False
        self.open = True

    def _style(self, element: Any, tag: str, style: str) -> str:
        named = element.get("class", "") if self.ours and tag in ("p", "li") else ""
        if named:
            return str(named)
        if len(tag) == 2 and tag[0] == "h" and tag[1] in "123456":
            return f"Heading {tag[1]}"
        if tag == "p" and self.lists:
            return "List continue"
        if tag == "p" and style == "Quote":
            return style
        if tag == "li":
            return "List continue"
        return _STYLES.get(tag, "Normal" if tag in ("p", "div", "body") else style)

    def _manner(self, element: Any, tag: str, manner: RunManner) -> RunManner:
        manner = manner._replace(**_MANNERS.get(tag, {}))
        if element.get("style"):
            manner = _ruled(manner, element.get("style"))
        language = element.get("lang", "")
        if language and tag not in ("html", "body"):
            manner = manner._replace(language=language)
        if self.ours and tag == "span" and element.get("class"):
            manner = manner._replace(named=element.get("class"))
        return manner

    # -- what stands beside the text ------------------------------------------------

    def _beside(self, element: Any, tag: str) -> bool:
        """A note, a picture, a reference, an entry of an index: taken, and not looked into."""
        if tag == "a":
            return self._link(element)
        if tag == "img":
            self._picture(element)
            return True
        if tag == "span" and element.get("data-term"):
            names = ("term", "sub", "see", "also", "reach")
            told = (element.get(f"data-{name}", "") for name in names)
            self.into.term(Termed(*told))
            self.open = True
            return True
        return False

    def _link(self, element: Any) -> bool:
        target = element.get("href", "").removeprefix("#")
        if element.get("role") == "doc-noteref" and target in self.notes:
            self._note(target)
            return True
        if element.get("data-tells"):
            said = "".join(element.itertext())
            self.into.refer(Referring(target, element.get("data-tells"), said))
            self.open = True
            return True
        return element.get("role") == "doc-backlink"

    def _note(self, target: str) -> None:
        self.open = True
        if target in self.numbers:
            self.into.again(self.numbers[target])
            return
        before, parts = self.into.take(), [*self.notes[target].iter("p")]
        for n, part in enumerate(parts or [self.notes[target]]):
            if n:
                self.into.put(LINE_BREAK)
            self._words(part, PLAIN)
        stretches = self.into.take()
        self.into.put_back(before)
        self.into.note(stretches)
        self.numbers[target] = len(self.into.notes)

    def _words(self, part: Any, manner: RunManner) -> None:
        """The words of a note, without blocks and links back."""
        self.open = True
        self.put(part.text, manner)
        for child in part:
            if isinstance(child.tag, str) and child.get("role") != "doc-backlink":
                if child.tag == "br":
                    self.into.put(LINE_BREAK, manner)
                self._words(child, self._manner(child, child.tag, manner))
            self.put(child.tail, manner)

    def _picture(self, element: Any) -> None:
        source = element.get("src", "")
        found = _DATA.match(source)
        try:
            data = base64.b64decode(source[found.end() :], validate=True) if found else b""
        except (binascii.Error, ValueError):
            data = b""
        if not data:
            self.into.left["pictures elsewhere"] += 1
            return
        size = [element.get(n, "") for n in ("data-width", "data-height")]
        wide, high = (float(s) if re.fullmatch(r"\d{1,4}(\.\d+)?", s) else 72.0 for s in size)
        caption, stands = element.get("alt", ""), element.get("data-stands", "")
        name = element.get("title", "") or "picture"
        self.into.picture(Pictured(name, data, wide, high, caption, stands))
        self.open = True


def _spoken(text: str | None, holds: bool) -> str | None:
    """What an element says, unless it holds parts and there is only space between them."""
    return None if holds and text is not None and not text.strip() else text


def _ruled(manner: RunManner, style: str) -> RunManner:
    """What the rules of a style attribute make of a manner."""
    for name, value in _RULES.findall(style[:2_000]):
        name, value = name.lower(), value.strip().lower()
        if name == "font-weight":
            heavy = int(value) >= 600 if value.isdecimal() and len(value) < 5 else manner.bold
            manner = manner._replace(bold=_BOLD.get(value, heavy))
        elif name == "font-style":
            manner = manner._replace(italic=value.startswith(("italic", "oblique")))
        elif name in ("font-variant", "font-variant-caps") and value != "inherit":
            manner = manner._replace(small_capitals="small-caps" in value)
        elif name in ("text-decoration", "text-decoration-line"):
            manner = manner._replace(
                underline=manner.underline or "underline" in value,
                strike=manner.strike or "line-through" in value,
            )
        elif name == "vertical-align" and value in ("super", "sub"):
            manner = manner._replace(raised="superior" if value == "super" else "inferior")
    return manner
