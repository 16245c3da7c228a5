"""Styles of a .docx (ISO/IEC 29500-1, 17.7): their names, and what they look like."""

from __future__ import annotations

from typing import Any

from hidden_frame.storage.manuscripts.known import known_style
from hidden_frame.storage.manuscripts.manuscript import RunManner, SourceLook

_W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
_QUOTED = 280  # twentieths of a point from either edge that a quotation stands in, about 5 mm
_ALIGNED = {"both": "justified", "center": "centre", "right": "right", "end": "right",
            "left": "left", "start": "left"}  # fmt: skip
_RAISED = {"superscript": "superior", "subscript": "inferior"}


def value(element: Any | None) -> str:
    """What an element says in its `val`."""
    return element.get(_W + "val", "") if element is not None else ""


def on(element: Any | None) -> bool:
    """A toggle property (17.3.2): there, and not switched off."""
    return element is not None and element.get(_W + "val", "1") not in ("0", "false", "off", "none")


def manner_of(properties: Any) -> RunManner:
    """What a run says itself of its characters."""
    language = properties.find(_W + "lang")
    return RunManner(
        on(properties.find(_W + "b")),
        on(properties.find(_W + "i")),
        language.get(_W + "val") if language is not None else None,
        on(properties.find(_W + "smallCaps")),
        _RAISED.get(value(properties.find(_W + "vertAlign")), ""),
        on(properties.find(_W + "strike")),
        on(properties.find(_W + "u")),
    )


def style_names(root: Any | None, kind: str) -> dict[str, str]:
    """The name of each style of a kind by its id; headings and quotations by what they are,
    whatever their language and name."""
    found: dict[str, str] = {}
    for style in _of_kind(root, kind):
        name = value(style.find(_W + "name")) or style.get(_W + "styleId", "")
        if kind == "paragraph":
            properties = style.find(_W + "pPr")
            level = properties.find(_W + "outlineLvl") if properties is not None else None
            name = known_style(name) or outlined(name, level)
        elif name in ("Default Paragraph Font", "footnote reference", "endnote reference"):
            name = ""
        found[style.get(_W + "styleId", "")] = name
    return found


def outlined(style: str, level: Any | None) -> str:
    """A style's name, or that of a heading where the outline has it on a level (17.3.1.20)."""
    number = value(level)
    if number.isdecimal() and int(number) < 9 and not style.startswith("Heading "):
        return f"Heading {int(number) + 1}"
    return style


def is_indented(indent: Any | None) -> bool:
    """Whether a paragraph stands in from both edges, as quotations do."""
    if indent is None:
        return False
    left = indent.get(_W + "left") or indent.get(_W + "start") or "0"
    right = indent.get(_W + "right") or indent.get(_W + "end") or "0"
    return all(_number(edge) >= _QUOTED for edge in (left, right))


def style_looks(root: Any | None, kind: str, names: dict[str, str]) -> dict[str, SourceLook]:
    """What the styles of a kind look like, by their names: what they are based on counts, and what
    the document says of all (17.7.5)."""
    known = {style.get(_W + "styleId", ""): style for style in _of_kind(root, kind)}
    defaults = root.find(f"{_W}docDefaults") if root is not None else None
    found: dict[str, SourceLook] = {}
    for style_id in known:
        chain, seen = [], set()
        while style_id in known and style_id not in seen:
            seen.add(style_id)
            chain.append(known[style_id])
            style_id = value(known[style_id].find(_W + "basedOn"))
        if kind == "paragraph" and defaults is not None:
            every = (defaults.find(_W + name) for name in ("pPrDefault", "rPrDefault"))
            chain += [e for e in every if e is not None]
        look = SourceLook()
        for style in reversed(chain):
            look = _said(style, look)
        first = chain[0].get(_W + "styleId", "") if chain else ""
        found.setdefault(names.get(first, ""), look)
    return found


def _of_kind(root: Any | None, kind: str) -> list[Any]:
    styles = root.iter(_W + "style") if root is not None else ()
    return [style for style in styles if style.get(_W + "type") == kind]


def _said(style: Any, look: SourceLook) -> SourceLook:
    """A look with what a style says itself."""
    letters, lines = style.find(_W + "rPr"), style.find(_W + "pPr")
    said: dict[str, Any] = {}
    if letters is not None:
        fonts = letters.find(_W + "rFonts")
        family = (fonts.get(_W + "ascii") or fonts.get(_W + "hAnsi")) if fonts is not None else None
        said |= {"family": family} if family else {}
        size = _number(value(letters.find(_W + "sz")))
        said |= {"size": size / 2} if size > 0 else {}
        for name, tag in (("bold", "b"), ("italic", "i"), ("small_capitals", "smallCaps"),
                          ("strike", "strike"), ("underline", "u")):  # fmt: skip
            at = letters.find(_W + tag)
            said |= {name: on(at)} if at is not None else {}
        raised = _RAISED.get(value(letters.find(_W + "vertAlign")), "")
        said |= {"raised": raised} if raised else {}
    if lines is not None:
        said |= _lines(lines)
    return look._replace(**said)


def _lines(lines: Any) -> dict[str, Any]:
    """What a style says of its paragraphs."""
    said: dict[str, Any] = {}
    aligned = _ALIGNED.get(value(lines.find(_W + "jc")))
    said |= {"alignment": aligned} if aligned else {}
    spacing, indent = lines.find(_W + "spacing"), lines.find(_W + "ind")
    if spacing is not None:
        for name, tag in (("space_before", "before"), ("space_after", "after")):
            if spacing.get(_W + tag) is not None:
                said[name] = max(_number(spacing.get(_W + tag)) / 20, 0.0)
        if spacing.get(_W + "lineRule") in ("exact", "atLeast"):
            said["leading"] = _number(spacing.get(_W + "line", "0")) / 20 or None
    if indent is not None:
        for name, tags in (("indent_left", ("left", "start")), ("indent_right", ("right", "end"))):
            at = next((indent.get(_W + t) for t in tags if indent.get(_W + t) is not None), None)
            said |= {name: max(_number(at) / 20, 0.0)} if at is not None else {}
        if indent.get(_W + "firstLine") is not None:
            said["indent_first"] = _number(indent.get(_W + "firstLine")) / 20
        elif indent.get(_W + "hanging") is not None:
            said["indent_first"] = -_number(indent.get(_W + "hanging")) / 20
    keeps = lines.find(_W + "keepNext")
    return said | ({"keep_next": on(keeps)} if keeps is not None else {})


def _number(text: str | None) -> float:
    """A number that a file gives; 0 for what is none, or too large for a page."""
    try:
        found = float(text or "0")
    except ValueError:
        return 0.0
    return found if abs(found) < 100_000 else 0.0
