"""A manuscript written out, so that its author can correct it: .docx, HTML, Markdown, text."""

from __future__ import annotations

import html
import io
import re
import zipfile
from collections.abc import Callable, Iterable
from xml.sax.saxutils import escape, quoteattr

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts.manuscript import LINE_BREAK, Para, Stretch

_MARKED = re.compile(r"([\\`*_{}\[\]<>#|~])")
_LINE_HEAD = re.compile(r"^(\s*)([-+=]|\d+[.)])")
_W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
_EPOCH = (1980, 1, 1, 0, 0, 0)  # the same bytes for the same text
_LISTS = ("List bullet", "List number")


def written(paragraphs: Iterable[Para], kind: str, title: str = "") -> bytes:
    """The bytes of a file of a kind: docx, html, md or txt.  Raises `Refusal` for another kind."""
    writers: dict[str, Callable[[list[Para], str], bytes]] = {
        "docx": _docx, "html": _html, "htm": _html, "md": _markdown, "markdown": _markdown,
        "txt": _plain, "text": _plain,
    }  # fmt: skip
    writer = writers.get(kind)
    if writer is None:
        raise Refusal(f"A story can't be written as .{kind}; choose .docx, .html, .md or .txt.")
    return writer(list(paragraphs), title)


def _plain(paragraphs: list[Para], _: str) -> bytes:
    lines = (p.text.replace(LINE_BREAK, "\n") for p in paragraphs)
    return ("\n".join(lines) + "\n").encode("utf-8")


# -- Markdown -----------------------------------------------------------------------------------


def _markdown(paragraphs: list[Para], _: str) -> bytes:
    blocks: list[str] = []
    before = ""
    for paragraph in paragraphs:
        words = "".join(_mark(s) for s in _joined(paragraph.stretches))
        style = paragraph.style
        if style.startswith("Heading ") and style[8:].isdecimal():
            block = "#" * min(int(style[8:]), 6) + " " + words.replace("\\\n", " ")
        elif style in _LISTS:
            sign, _, rest = words.partition("\t")
            block = ("- " if style == "List bullet" else f"{sign.replace(chr(92), '')} ") + rest
        elif style == "Quote":
            block = "> " + words.replace("\\\n", "\\\n> ")
        else:
            block = _LINE_HEAD.sub(r"\1\\\2", words)
        joined = style in _LISTS and style == before
        blocks.append(("\n" if joined else "\n\n" if blocks else "") + block)
        before = style
    return ("".join(blocks) + "\n").encode("utf-8")


def _joined(stretches: tuple[Stretch, ...]) -> list[Stretch]:
    """Neighbours that look alike made one: two signs of emphasis would meet between them."""
    found: list[Stretch] = []
    for stretch in stretches:
        last = found[-1] if found else None
        if last is not None and (last.bold, last.italic) == (stretch.bold, stretch.italic):
            found[-1] = last._replace(text=last.text + stretch.text)
        else:
            found.append(stretch)
    return found


def _mark(stretch: Stretch) -> str:
    words = _MARKED.sub(r"\\\1", stretch.text).replace(LINE_BREAK, "\\\n")
    sign = "***" if stretch.bold and stretch.italic else "**" if stretch.bold else "*"
    core = words.strip(" \t")
    if not (stretch.bold or stretch.italic) or not core:
        return words
    head, tail = words[: words.index(core)], words[words.index(core) + len(core) :]
    return f"{head}{sign}{core}{sign}{tail}"


# -- HTML ---------------------------------------------------------------------------------------


def _html(paragraphs: list[Para], title: str) -> bytes:
    body: list[str] = []
    inside = ""
    for paragraph in paragraphs:
        kind = {"List bullet": "ul", "List number": "ol"}.get(paragraph.style, "")
        if kind != inside:
            body += [f"</{inside}>"] if inside else []
            body += [f"<{kind}>"] if kind else []
            inside = kind
        body.append(_html_block(paragraph))
    body += [f"</{inside}>"] if inside else []
    page = (
        '<!DOCTYPE html>\n<html><head><meta charset="utf-8"><title>'
        + html.escape(title)
        + "</title></head><body>\n"
        + "\n".join(body)
        + "\n</body></html>\n"
    )
    return page.encode("utf-8")


def _html_block(paragraph: Para) -> str:
    style = paragraph.style
    words = "".join(_html_stretch(s) for s in paragraph.stretches)
    if style.startswith("Heading ") and style[8:] in "123456":
        return f"<h{style[8:]}>{words}</h{style[8:]}>"
    if style in _LISTS:
        return f"<li>{words.partition(chr(9))[2] or words}</li>"
    if style == "Quote":
        return f"<blockquote><p>{words}</p></blockquote>"
    named = "" if style == "Normal" else f" class={quoteattr(style)}"
    return f"<p{named}>{words}</p>"


def _html_stretch(stretch: Stretch) -> str:
    words = html.escape(stretch.text, quote=False).replace(LINE_BREAK, "<br>")
    words = f"<em>{words}</em>" if stretch.italic else words
    return f"<strong>{words}</strong>" if stretch.bold else words


# -- .docx (ISO/IEC 29500-1) ----------------------------------------------------------------------


def _docx(paragraphs: list[Para], title: str) -> bytes:
    names = list(dict.fromkeys(["Normal", *(p.style for p in paragraphs)]))
    ids = {name: _style_id(name, n) for n, name in enumerate(names)}
    body = "".join(_docx_paragraph(p, ids) for p in paragraphs)
    document = f'<w:document xmlns:w="{_W}"><w:body>{body}<w:sectPr/></w:body></w:document>'
    styles = "".join(_docx_style(name, ids[name]) for name in names)
    parts = {
        "[Content_Types].xml": _TYPES,
        "_rels/.rels": _RELS,
        "word/_rels/document.xml.rels": _DOCUMENT_RELS,
        "word/document.xml": document,
        "word/styles.xml": f'<w:styles xmlns:w="{_W}">{styles}</w:styles>',
        "word/numbering.xml": _NUMBERING,
        "docProps/core.xml": _CORE.format(title=escape(title)),
    }
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as file:
        for name, text in parts.items():
            info = zipfile.ZipInfo(name, _EPOCH)
            info.compress_type = zipfile.ZIP_DEFLATED
            file.writestr(info, '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n' + text)
    return buffer.getvalue()


def _style_id(name: str, number: int) -> str:
    plain = re.sub(r"\W", "", name)
    known = name == "Normal" or (name.startswith("Heading ") and name[8:].isdecimal())
    return plain if known else f"S{number}{plain}"


def _docx_style(name: str, style_id: str) -> str:
    default = ' w:default="1"' if name == "Normal" else ""
    based = "" if name == "Normal" else '<w:basedOn w:val="Normal"/>'
    outline = ""
    shown = name
    if name.startswith("Heading ") and name[8:].isdecimal():
        shown = name.lower()
        outline = f'<w:pPr><w:outlineLvl w:val="{int(name[8:]) - 1}"/></w:pPr>'
    return (
        f'<w:style w:type="paragraph" w:styleId={quoteattr(style_id)}{default}>'
        f"<w:name w:val={quoteattr(shown)}/>{based}{outline}</w:style>"
    )


def _docx_paragraph(paragraph: Para, ids: dict[str, str]) -> str:
    stretches = paragraph.stretches
    listed = ""
    if paragraph.style in _LISTS:
        number = 1 if paragraph.style == "List bullet" else 2
        listed = f'<w:numPr><w:ilvl w:val="0"/><w:numId w:val="{number}"/></w:numPr>'
        stretches = _without_sign(stretches)
    style = f"<w:pStyle w:val={quoteattr(ids[paragraph.style])}/>"
    runs = "".join(_docx_run(s) for s in stretches)
    return f"<w:p><w:pPr>{style}{listed}</w:pPr>{runs}</w:p>"


def _without_sign(stretches: tuple[Stretch, ...]) -> tuple[Stretch, ...]:
    """A list's entry without its sign, which the list itself puts there."""
    if not stretches or "\t" not in stretches[0].text:
        return stretches
    first = stretches[0]._replace(text=stretches[0].text.partition("\t")[2])
    return (first, *stretches[1:]) if first.text else stretches[1:]


def _docx_run(stretch: Stretch) -> str:
    look = ("<w:b/>" if stretch.bold else "") + ("<w:i/>" if stretch.italic else "")
    if stretch.language:
        look += f"<w:lang w:val={quoteattr(stretch.language.replace('_', '-'))}/>"
    look = f"<w:rPr>{look}</w:rPr>" if look else ""
    pieces = []
    for part in re.split(f"([\t{LINE_BREAK}\u2011\u00ad])", stretch.text):
        if part in _SIGNS:
            pieces.append(_SIGNS[part])
        elif part:
            pieces.append(f'<w:t xml:space="preserve">{escape(part)}</w:t>')
    return f"<w:r>{look}{''.join(pieces)}</w:r>"


_SIGNS = {"\t": "<w:tab/>", LINE_BREAK: "<w:br/>", "\u2011": "<w:noBreakHyphen/>",
          "\u00ad": "<w:softHyphen/>"}  # fmt: skip
_PACKAGE = "http://schemas.openxmlformats.org/package/2006"
_OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_KIND = "application/vnd.openxmlformats-officedocument.wordprocessingml"
_TYPES = (
    f'<Types xmlns="{_PACKAGE}/content-types">'
    '<Default Extension="rels" '
    'ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
    '<Default Extension="xml" ContentType="application/xml"/>'
    f'<Override PartName="/word/document.xml" ContentType="{_KIND}.document.main+xml"/>'
    f'<Override PartName="/word/styles.xml" ContentType="{_KIND}.styles+xml"/>'
    f'<Override PartName="/word/numbering.xml" ContentType="{_KIND}.numbering+xml"/>'
    '<Override PartName="/docProps/core.xml" '
    'ContentType="application/vnd.openxmlformats-package.core-properties+xml"/></Types>'
)
_RELS = (
    f'<Relationships xmlns="{_PACKAGE}/relationships">'
    f'<Relationship Id="rId1" Type="{_OFFICE}/officeDocument" Target="word/document.xml"/>'
    f'<Relationship Id="rId2" Type="{_PACKAGE}/relationships/metadata/core-properties" '
    'Target="docProps/core.xml"/></Relationships>'
)
_DOCUMENT_RELS = (
    f'<Relationships xmlns="{_PACKAGE}/relationships">'
    f'<Relationship Id="rId1" Type="{_OFFICE}/styles" Target="styles.xml"/>'
    f'<Relationship Id="rId2" Type="{_OFFICE}/numbering" Target="numbering.xml"/></Relationships>'
)
_NUMBERING = (
    f'<w:numbering xmlns:w="{_W}">'
    '<w:abstractNum w:abstractNumId="0"><w:lvl w:ilvl="0"><w:numFmt w:val="bullet"/>'
    '<w:lvlText w:val="•"/></w:lvl></w:abstractNum>'
    '<w:abstractNum w:abstractNumId="1"><w:lvl w:ilvl="0"><w:start w:val="1"/>'
    '<w:numFmt w:val="decimal"/><w:lvlText w:val="%1."/></w:lvl></w:abstractNum>'
    '<w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num>'
    '<w:num w:numId="2"><w:abstractNumId w:val="1"/></w:num></w:numbering>'
)
_CORE = (
    f'<cp:coreProperties xmlns:cp="{_PACKAGE}/metadata/core-properties" '
    'xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>{title}</dc:title></cp:coreProperties>'
)
