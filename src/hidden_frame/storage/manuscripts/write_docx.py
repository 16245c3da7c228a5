"""A manuscript as .docx (ISO/IEC 29500-1, WordprocessingML)."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Mapping
from xml.sax.saxutils import escape, quoteattr

from hidden_frame.storage.manuscripts.known import described, field_of
from hidden_frame.storage.manuscripts.manuscript import (
    LINE_BREAK,
    MOST_LEVELS,
    ManuscriptRun,
    Noted,
    Para,
    Pictured,
    Referring,
    RunManner,
    SourceLook,
    Termed,
)

_W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
_PACKAGE = "http://schemas.openxmlformats.org/package/2006"
_OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_KIND = "application/vnd.openxmlformats-officedocument.wordprocessingml"
_DRAWING = "http://schemas.openxmlformats.org/drawingml/2006"
EPOCH = (1980, 1, 1, 0, 0, 0)  # the same bytes for the same text
_SIGNS = {"\t": "<w:tab/>", LINE_BREAK: "<w:br/>", "\u2011": "<w:noBreakHyphen/>",
          "\u00ad": "<w:softHyphen/>"}  # fmt: skip
_SECTIONS = {"right page": "oddPage", "left page": "evenPage"}
_REACHES = {"begins": ' \\f "b"', "ends": ' \\f "e"'}
_EMU = 12_700  # English metric units to a point


def docx(paragraphs: list[Para], title: str, characters: Mapping[str, SourceLook]) -> bytes:
    """Styles, lists that count, notes, pictures, entries of an index, references."""
    return _Writer(paragraphs, characters).package(title)


class _Writer:
    def __init__(self, paragraphs: list[Para], characters: Mapping[str, SourceLook]) -> None:
        self.paragraphs, self.characters = paragraphs, characters
        names = list(dict.fromkeys(["Normal", *(p.style for p in paragraphs)]))
        self.ids = {name: _style_id(name, n) for n, name in enumerate(names)}
        used = dict.fromkeys(s.named for p in paragraphs for s in _all(p) if s.named)
        self.named = {name: f"C{n}{re.sub(_ODD, '', name)}" for n, name in enumerate(used)}
        self.notes: list[str] = []
        self.media: dict[str, bytes] = {}
        self.starts: list[tuple[int, int]] = []  # level and number of each list that begins anew
        self.list = _NUMBERS  # the numbered list that is counted on
        self.places: dict[str, int] = {}
        self.pictures = 0
        first = paragraphs[0].starts if paragraphs else ""
        self.section = first  # where the section starts that is being written

    def package(self, title: str) -> bytes:
        body = "".join(self._paragraph(p, n) for n, p in enumerate(self.paragraphs))
        body += _section(self.section)
        document = f"<w:document {_SPACES}><w:body>{body}</w:body></w:document>"
        styles = "".join(_style(name, style_id) for name, style_id in self.ids.items())
        styles += "".join(
            _character_style(name, style_id, self.characters.get(name, SourceLook()))
            for name, style_id in self.named.items()
        )
        notes = "".join(self.notes)
        parts: dict[str, str | bytes] = {
            "[Content_Types].xml": _TYPES,
            "_rels/.rels": _RELS,
            "word/_rels/document.xml.rels": self._relations(),
            "word/document.xml": document,
            "word/styles.xml": f'<w:styles xmlns:w="{_W}">{styles}</w:styles>',
            "word/numbering.xml": self._numbering(),
            "word/footnotes.xml": f"<w:footnotes {_SPACES}>{_SEPARATORS}{notes}</w:footnotes>",
            "docProps/core.xml": _CORE.format(title=escape(title)),
            **{f"word/{name}": data for name, data in self.media.items()},
        }
        return zipped(parts)

    # -- paragraphs ---------------------------------------------------------------------

    def _paragraph(self, paragraph: Para, number: int) -> str:
        said = f"<w:pStyle w:val={quoteattr(self.ids[paragraph.style])}/>"
        if paragraph.starts == "page":
            said += "<w:pageBreakBefore/>"
        said += self._listed(paragraph) if paragraph.level else ""
        following = self.paragraphs[number + 1 : number + 2]
        if following and following[0].starts in _SECTIONS:
            said += _section(self.section)
            self.section = following[0].starts
        runs = "".join(self._stretch(s) for s in paragraph.stretches)
        if paragraph.place:
            at = self.places.setdefault(paragraph.place, len(self.places) + 1)
            name = quoteattr(bookmark(paragraph.place))
            mark = f'<w:bookmarkStart w:id="{at}" w:name={name}/>'
            runs = f'{mark}{runs}<w:bookmarkEnd w:id="{at}"/>'
        return f"<w:p><w:pPr>{said}</w:pPr>{runs}</w:p>"

    def _listed(self, paragraph: Para) -> str:
        level = min(paragraph.level, MOST_LEVELS) - 1
        if paragraph.numbered and paragraph.count_from is not None:
            self.starts.append((level, paragraph.count_from))
            self.list = _NUMBERS + len(self.starts)
        number = self.list if paragraph.numbered else _BULLETS
        return f'<w:numPr><w:ilvl w:val="{level}"/><w:numId w:val="{number}"/></w:numPr>'

    def _numbering(self) -> str:
        """Two lists of nine levels, and a list of the second kind for each that begins anew: the
        override of its start (17.9.27) lets it."""
        levels = "".join(
            f'<w:lvl w:ilvl="{n}"><w:start w:val="1"/><w:numFmt w:val="{{kind}}"/>'
            f'<w:lvlText w:val="{{text{n}}}"/><w:pPr><w:ind w:left="{360 * (n + 1)}" '
            'w:hanging="360"/></w:pPr></w:lvl>'
            for n in range(MOST_LEVELS)
        )
        bullets = levels.format(kind="bullet", **{f"text{n}": "•" for n in range(MOST_LEVELS)})
        numbers = levels.format(
            kind="decimal", **{f"text{n}": f"%{n + 1}." for n in range(MOST_LEVELS)}
        )
        lists = f'<w:num w:numId="{_BULLETS}"><w:abstractNumId w:val="0"/></w:num>'
        lists += f'<w:num w:numId="{_NUMBERS}"><w:abstractNumId w:val="1"/></w:num>'
        for n, (level, start) in enumerate(self.starts, 1):
            lists += (
                f'<w:num w:numId="{_NUMBERS + n}"><w:abstractNumId w:val="1"/>'
                f'<w:lvlOverride w:ilvl="{level}"><w:startOverride w:val="{start}"/>'
                "</w:lvlOverride></w:num>"
            )
        return (
            f'<w:numbering xmlns:w="{_W}"><w:abstractNum w:abstractNumId="0">{bullets}'
            f'</w:abstractNum><w:abstractNum w:abstractNumId="1">{numbers}</w:abstractNum>'
            f"{lists}</w:numbering>"
        )

    # -- characters ---------------------------------------------------------------------

    def _stretch(self, stretch: ManuscriptRun) -> str:
        match stretch.beside:
            case Noted(words):
                return self._note(words)
            case Referring(_, _, said) as referring:
                return _referring(referring._replace(place=bookmark(referring.place)), said)
            case Termed() as termed:
                return _entry(termed)
            case Pictured() as pictured:
                return self._picture(pictured)
        return self._run(stretch)

    def _run(self, stretch: ManuscriptRun) -> str:
        look = look_of(stretch.manner, self.named.get(stretch.named, ""))
        pieces = []
        for part in re.split(f"([\t{LINE_BREAK}\u2011\u00ad])", stretch.text):
            if part in _SIGNS:
                pieces.append(_SIGNS[part])
            elif part:
                pieces.append(f'<w:t xml:space="preserve">{escape(part)}</w:t>')
        return f"<w:r>{look}{''.join(pieces)}</w:r>"

    def _note(self, words: tuple[ManuscriptRun, ...]) -> str:
        number = len(self.notes) + 1
        self.notes.append("")  # its place, before notes within it
        runs = "".join(self._run(s) for s in words)
        mark = '<w:r><w:rPr><w:vertAlign w:val="superscript"/></w:rPr>{}</w:r>'
        own = mark.format("<w:footnoteRef/>")
        self.notes[number - 1] = f'<w:footnote w:id="{number}"><w:p>{own}{runs}</w:p></w:footnote>'
        return mark.format(f'<w:footnoteReference w:id="{number}"/>')

    def _picture(self, pictured: Pictured) -> str:
        self.pictures += 1
        name = f"media/{self.pictures}-{re.sub(r'[^A-Za-z0-9.]+', '-', pictured.name)[-60:]}"
        self.media[name] = pictured.data
        size = f'cx="{round(pictured.width * _EMU)}" cy="{round(pictured.height * _EMU)}"'
        said = quoteattr(described(pictured.caption, pictured.stands))
        about = f'id="{self.pictures}" name={quoteattr(pictured.name)} descr={said}'
        return (
            f"<w:r><w:drawing><wp:inline><wp:extent {size}/><wp:docPr {about}/><a:graphic>"
            f'<a:graphicData uri="{_DRAWING}/picture"><pic:pic><pic:nvPicPr><pic:cNvPr {about}/>'
            "<pic:cNvPicPr/></pic:nvPicPr><pic:blipFill>"
            f'<a:blip r:embed="rIdP{self.pictures}"/><a:stretch><a:fillRect/></a:stretch>'
            f'</pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext {size}/></a:xfrm>'
            '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData>'
            "</a:graphic></wp:inline></w:drawing></w:r>"
        )

    def _relations(self) -> str:
        rows = [("rId1", "styles", "styles.xml"), ("rId2", "numbering", "numbering.xml"),
                ("rId3", "footnotes", "footnotes.xml")]  # fmt: skip
        rows += [(f"rIdP{n}", "image", name) for n, name in enumerate(self.media, 1)]
        return f'<Relationships xmlns="{_PACKAGE}/relationships">' + "".join(
            f'<Relationship Id="{i}" Type="{_OFFICE}/{kind}" Target={quoteattr(target)}/>'
            for i, kind, target in rows
        ) + "</Relationships>"  # fmt: skip


def _section(starts: str) -> str:
    """What a section says at its end: on which side it started (17.6.22)."""
    kind = _SECTIONS.get(starts)
    return f'<w:sectPr><w:type w:val="{kind}"/></w:sectPr>' if kind else "<w:sectPr/>"


def _all(paragraph: Para) -> list[ManuscriptRun]:
    """The stretches of a paragraph and of its notes."""
    found = list(paragraph.stretches)
    for stretch in paragraph.stretches:
        if isinstance(stretch.beside, Noted):
            found += stretch.beside.words
    return found


def zipped(parts: Mapping[str, str | bytes], stored: str = "") -> bytes:
    """Parts as an office document's package; one is `stored` as it is, and comes first."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as file:
        for name, part in parts.items():
            info = zipfile.ZipInfo(name, EPOCH)
            info.compress_type = zipfile.ZIP_STORED if name == stored else zipfile.ZIP_DEFLATED
            head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
            plain = isinstance(part, bytes) or name == stored
            file.writestr(info, part if plain else head + str(part))
    return buffer.getvalue()


_ODD = re.compile(r"\W")


def bookmark(place: str) -> str:
    """A place's name as a bookmark's: letters, figures and low lines."""
    return re.sub(_ODD, "_", place)[:40]


def _style_id(name: str, number: int) -> str:
    plain = re.sub(_ODD, "", name)
    known = name == "Normal" or (name.startswith("Heading ") and name[8:].isdecimal())
    return plain if known else f"S{number}{plain}"


def _style(name: str, style_id: str) -> str:
    default = ' w:default="1"' if name == "Normal" else ""
    based = "" if name == "Normal" else '<w:basedOn w:val="Normal"/>'
    outline, shown = "", name
    if name.startswith("Heading ") and name[8:] in "123456789":
        shown = name.lower()
        level = int(name[8:]) - 1
        outline = f'<w:pPr><w:keepNext/><w:outlineLvl w:val="{level}"/></w:pPr>'
    return (
        f'<w:style w:type="paragraph" w:styleId={quoteattr(style_id)}{default}>'
        f"<w:name w:val={quoteattr(shown)}/>{based}{outline}</w:style>"
    )


def _character_style(name: str, style_id: str, look: SourceLook) -> str:
    return (
        f'<w:style w:type="character" w:styleId={quoteattr(style_id)}>'
        f"<w:name w:val={quoteattr(name)}/>{look_of(look.manner, '')}</w:style>"
    )


def look_of(manner: RunManner, named: str) -> str:
    """The properties of a run, in the order of the schema (17.3.2.28)."""
    raised = {"superior": "superscript", "inferior": "subscript"}.get(manner.raised, "")
    said = f"<w:rStyle w:val={quoteattr(named)}/>" if named else ""
    said += "<w:b/>" * manner.bold + "<w:i/>" * manner.italic
    said += "<w:smallCaps/>" * manner.small_capitals + "<w:strike/>" * manner.strike
    said += '<w:u w:val="single"/>' * manner.underline
    said += f'<w:vertAlign w:val="{raised}"/>' if raised else ""
    if manner.language:
        said += f"<w:lang w:val={quoteattr(manner.language.replace('_', '-'))}/>"
    return f"<w:rPr>{said}</w:rPr>" if said else ""


def _field(instruction: str, shown: str = "") -> str:
    """A field in its parts (17.16.18)."""
    sign = '<w:r><w:fldChar w:fldCharType="{}"/></w:r>'
    said = f'<w:r><w:instrText xml:space="preserve"> {escape(instruction)} </w:instrText></w:r>'
    between = sign.format("separate") + shown if shown else ""
    return sign.format("begin") + said + between + sign.format("end")


def _referring(referring: Referring, said: str) -> str:
    words = f'<w:r><w:t xml:space="preserve">{escape(said)}</w:t></w:r>'
    return _field(field_of(referring), words)


def _entry(termed: Termed) -> str:
    """An entry of an index (17.16.5.71)."""
    term = ":".join(w.replace('"', '\\"') for w in (termed.term, termed.sub) if w)
    instead = f"See {termed.see}" if termed.see else ""
    instead = instead or (f"See also {termed.see_also}" if termed.see_also else "")
    told = f' \\t "{instead}"' if instead else ""
    return _field(f'XE "{term}"{told}{_REACHES.get(termed.reach, "")}')


_BULLETS, _NUMBERS = 1, 2
_SPACES = (
    f'xmlns:w="{_W}" xmlns:r="{_OFFICE}" xmlns:a="{_DRAWING}/main" '
    f'xmlns:wp="{_DRAWING}/wordprocessingDrawing" xmlns:pic="{_DRAWING}/picture"'
)
_SEPARATORS = (
    '<w:footnote w:type="separator" w:id="-1"><w:p><w:r><w:separator/></w:r></w:p></w:footnote>'
    '<w:footnote w:type="continuationSeparator" w:id="0"><w:p><w:r><w:continuationSeparator/>'
    "</w:r></w:p></w:footnote>"
)
_TYPES = (
    f'<Types xmlns="{_PACKAGE}/content-types">'
    '<Default Extension="rels" '
    'ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
    '<Default Extension="xml" ContentType="application/xml"/>'
    + "".join(
        f'<Default Extension="{end}" ContentType="image/{kind}"/>'
        for end, kind in (("png", "png"), ("jpg", "jpeg"), ("jpeg", "jpeg"), ("tif", "tiff"),
                          ("tiff", "tiff"), ("svg", "svg+xml"))
    )
    + f'<Override PartName="/word/document.xml" ContentType="{_KIND}.document.main+xml"/>'
    + "".join(
        f'<Override PartName="/word/{part}.xml" ContentType="{_KIND}.{part}+xml"/>'
        for part in ("styles", "numbering", "footnotes")
    )
    + '<Override PartName="/docProps/core.xml" '
    'ContentType="application/vnd.openxmlformats-package.core-properties+xml"/></Types>'
)  # fmt: skip
_RELS = (
    f'<Relationships xmlns="{_PACKAGE}/relationships">'
    f'<Relationship Id="rId1" Type="{_OFFICE}/officeDocument" Target="word/document.xml"/>'
    f'<Relationship Id="rId2" Type="{_PACKAGE}/relationships/metadata/core-properties" '
    'Target="docProps/core.xml"/></Relationships>'
)
_CORE = (
    f'<cp:coreProperties xmlns:cp="{_PACKAGE}/metadata/core-properties" '
    'xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>{title}</dc:title></cp:coreProperties>'
)
