"""A manuscript as .odt (ISO/IEC 26300, OpenDocument text 1.2)."""

from __future__ import annotations

import re
from collections.abc import Mapping
from xml.sax.saxutils import escape, quoteattr

from hidden_frame.storage.manuscripts.known import described
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
from hidden_frame.storage.manuscripts.odt_styles import OURS
from hidden_frame.storage.manuscripts.write_docx import zipped

MIMETYPE = "application/vnd.oasis.opendocument.text"
_NS = "urn:oasis:names:tc:opendocument:xmlns:"
_SPACES = " ".join(
    f'xmlns:{short}="{_NS}{name}:1.0"'
    for short, name in (("office", "office"), ("text", "text"), ("style", "style"),
                        ("fo", "xsl-fo-compatible"), ("svg", "svg-compatible"),
                        ("draw", "drawing"), ("manifest", "manifest"))
) + f' xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:hf="{OURS}"'  # fmt: skip
_TELLS = {"folio": "page", "text": "text", "number": "number",
          "number and text": "number-all-superior"}  # fmt: skip
_SPACED = re.compile(f"(\t|{LINE_BREAK}|^ +| {{2,}}| +$)")


def odt(paragraphs: list[Para], title: str, characters: Mapping[str, SourceLook]) -> bytes:
    """Styles, nested lists, notes, pictures, entries of an index, references."""
    return _Writer(characters).package(paragraphs, title)


class _Writer:
    def __init__(self, characters: Mapping[str, SourceLook]) -> None:
        self.characters = characters
        self.styles: dict[str, str] = {}  # paragraph styles: their names here, by their names
        self.named: dict[str, str] = {}
        self.automatic: dict[str, str] = {}  # what they say, by their names
        self.media: dict[str, bytes] = {}
        self.notes = 0
        self.rows: list[str] = []

    def package(self, paragraphs: list[Para], title: str) -> bytes:
        for paragraph in paragraphs:
            self._block(paragraph)
        body = "".join(self.rows)
        automatic = "".join(self.automatic.values()) + _LISTS
        content = (
            f'<office:document-content {_SPACES} office:version="1.2">'
            f"<office:automatic-styles>{automatic}</office:automatic-styles>"
            f"<office:body><office:text>{body}</office:text></office:body>"
            "</office:document-content>"
        )
        kept = "".join(_style(name, style) for name, style in self.styles.items())
        kept += "".join(
            _character_style(name, style, self.characters.get(name, SourceLook()))
            for name, style in self.named.items()
        )
        styles = (
            f'<office:document-styles {_SPACES} office:version="1.2"><office:styles>{kept}'
            "</office:styles></office:document-styles>"
        )
        meta = (
            f'<office:document-meta {_SPACES} xmlns:dc="http://purl.org/dc/elements/1.1/" '
            f'office:version="1.2"><office:meta><dc:title>{escape(title)}</dc:title>'
            "</office:meta></office:document-meta>"
        )
        files = {"/": MIMETYPE, "content.xml": "text/xml", "styles.xml": "text/xml",
                 "meta.xml": "text/xml", **dict.fromkeys(self.media, "")}  # fmt: skip
        manifest = "".join(
            f"<manifest:file-entry manifest:full-path={quoteattr(name)} "
            f"manifest:media-type={quoteattr(kind)}/>"
            for name, kind in files.items()
        )
        return zipped(
            {
                "mimetype": MIMETYPE,
                "content.xml": content,
                "styles.xml": styles,
                "meta.xml": meta,
                "META-INF/manifest.xml": (
                    f'<manifest:manifest xmlns:manifest="{_NS}manifest:1.0" '
                    f'manifest:version="1.2">{manifest}</manifest:manifest>'
                ),
                **self.media,
            },
            stored="mimetype",
        )

    # -- paragraphs ---------------------------------------------------------------------

    def _block(self, paragraph: Para) -> None:
        words = "".join(self._stretch(s) for s in paragraph.stretches)
        if paragraph.place:
            words = f"<text:bookmark text:name={quoteattr(paragraph.place)}/>{words}"
        named = quoteattr(self._named(paragraph))
        heading = _heading(paragraph.style)
        if heading:
            block = (
                f'<text:h text:style-name={named} text:outline-level="{heading}">{words}</text:h>'
            )
        else:
            block = f"<text:p text:style-name={named}>{words}</text:p>"
        if paragraph.level:
            self._entry(paragraph, block)
        else:
            self.rows.append(block)

    def _entry(self, paragraph: Para, block: str) -> None:
        """An entry of a list on its level, in a list of its own that goes on with the one before:
        so lists may change their kind on any level."""
        level = min(paragraph.level, MOST_LEVELS)
        kind = "Numbers" if paragraph.numbered else "Bullets"
        start = f' text:start-value="{paragraph.count_from}"' if paragraph.count_from else ""
        opened = f'<text:list text:style-name="{kind}" text:continue-numbering="true">'
        opened += "<text:list-item><text:list>" * (level - 1)
        self.rows.append(
            f"{opened}<text:list-item{start}>{block}</text:list-item>"
            + "</text:list></text:list-item>" * (level - 1)
            + "</text:list>"
        )

    def _named(self, paragraph: Para) -> str:
        """The name of the style that a paragraph is in, an automatic one if it starts a page."""
        style = self.styles.setdefault(
            paragraph.style,
            "Standard" if paragraph.style == "Normal" else f"P{len(self.styles) + 1}",
        )
        if not paragraph.starts:
            return style
        name = f"{style}-{paragraph.starts.replace(' ', '-')}"
        self.automatic[name] = (
            f'<style:style style:name={quoteattr(name)} style:family="paragraph" '
            f"style:parent-style-name={quoteattr(style)}><style:paragraph-properties "
            f'fo:break-before="page" hf:side={quoteattr(paragraph.starts)}/></style:style>'
        )
        return name

    # -- characters ---------------------------------------------------------------------

    def _stretch(self, stretch: ManuscriptRun) -> str:
        match stretch.beside:
            case Noted(words):
                self.notes += 1
                inner = "".join(self._words(s) for s in words)
                return (
                    f'<text:note text:id="n{self.notes}" text:note-class="footnote">'
                    f"<text:note-citation>{self.notes}</text:note-citation><text:note-body>"
                    f"<text:p>{inner}</text:p></text:note-body></text:note>"
                )
            case Referring(place, tells, said):
                return (
                    f"<text:bookmark-ref text:ref-name={quoteattr(place)} "
                    f'text:reference-format="{_TELLS.get(tells, "text")}">{escape(said)}'
                    "</text:bookmark-ref>"
                )
            case Termed() as termed:
                return _entry_of(termed)
            case Pictured() as pictured:
                return self._picture(pictured)
        return self._words(stretch)

    def _words(self, stretch: ManuscriptRun) -> str:
        words = spaced(stretch.text)
        named = self._letters(stretch.manner._replace(named=""), stretch.named)
        return (
            f"<text:span text:style-name={quoteattr(named)}>{words}</text:span>" if named else words
        )

    def _letters(self, manner: RunManner, name: str) -> str:
        """The style of characters: one that has a name, an automatic one that goes back to it, or
        none."""
        parent = self.named.setdefault(name, f"T{len(self.named) + 1}") if name else ""
        if manner == RunManner():
            return parent
        key = f"A{'-'.join(map(str, manner[:-1]))}-{parent}"
        self.automatic.setdefault(
            key,
            f'<style:style style:name={quoteattr(key)} style:family="text"'
            + (f" style:parent-style-name={quoteattr(parent)}" if parent else "")
            + f">{_said(manner)}</style:style>",
        )
        return key

    def _picture(self, pictured: Pictured) -> str:
        number = len(self.media) + 1
        name = f"Pictures/{number}-{re.sub(r'[^A-Za-z0-9.]+', '-', pictured.name)[-60:]}"
        self.media[name] = pictured.data
        said = escape(described(pictured.caption, pictured.stands))
        return (
            f'<draw:frame draw:name={quoteattr(pictured.name)} text:anchor-type="as-char" '
            f'svg:width="{pictured.width:.4f}pt" svg:height="{pictured.height:.4f}pt">'
            f"<draw:image xlink:href={quoteattr(name)}/><svg:desc>{said}</svg:desc></draw:frame>"
        )


def spaced(text: str) -> str:
    """Text in which every space, tab and break stays (ODF 1.2, 6.1.2 and 6.1.3)."""
    parts = []
    for part in _SPACED.split(text):
        if part == "\t":
            parts.append("<text:tab/>")
        elif part == LINE_BREAK:
            parts.append("<text:line-break/>")
        elif part and not part.strip(" "):
            parts.append(f'<text:s text:c="{len(part)}"/>')
        else:
            parts.append(escape(part))
    return "".join(parts)


def _entry_of(termed: Termed) -> str:
    """An entry of an alphabetical index (ODF 1.2, 7.1.20); where it leads is ours to say."""
    word, key = (termed.sub, termed.term) if termed.sub else (termed.term, "")
    said = f"text:string-value={quoteattr(word)}" + (f" text:key1={quoteattr(key)}" if key else "")
    for name, told in (("see", termed.see), ("also", termed.see_also)):
        said += f" hf:{name}={quoteattr(told)}" if told else ""
    said += f' hf:reach="{termed.reach}"' if termed.reach != "here" else ""
    return f"<text:alphabetical-index-mark {said}/>"


def _heading(style: str) -> int:
    return int(style[8:]) if style.startswith("Heading ") and style[8:] in "123456789" else 0


def _style(name: str, style: str) -> str:
    shown = "Standard" if name == "Normal" else name
    level = _heading(name)
    outline = f' style:default-outline-level="{level}"' if level else ""
    based = "" if name == "Normal" else ' style:parent-style-name="Standard"'
    keeps = '<style:paragraph-properties fo:keep-with-next="always"/>' if level else ""
    return (
        f"<style:style style:name={quoteattr(style)} style:display-name={quoteattr(shown)} "
        f'style:family="paragraph"{based}{outline}>{keeps}</style:style>'
    )


def _character_style(name: str, style: str, look: SourceLook) -> str:
    return (
        f"<style:style style:name={quoteattr(style)} style:display-name={quoteattr(name)} "
        f'style:family="text">{_said(look.manner)}</style:style>'
    )


def _said(manner: RunManner) -> str:
    """What a style says of its characters."""
    said = 'fo:font-weight="bold" ' * manner.bold + 'fo:font-style="italic" ' * manner.italic
    said += 'fo:font-variant="small-caps" ' * manner.small_capitals
    said += 'style:text-line-through-style="solid" ' * manner.strike
    said += 'style:text-underline-style="solid" ' * manner.underline
    where = {"superior": "super 58%", "inferior": "sub 58%"}.get(manner.raised)
    said += f'style:text-position="{where}" ' if where else ""
    if manner.language:
        language, _, country = manner.language.replace("-", "_").partition("_")
        said += f'fo:language="{language}" fo:country="{country or "none"}" '
    return f"<style:text-properties {said}/>"


_LISTS = "".join(
    f'<text:list-style style:name="{name}">'
    + "".join(level.format(n=n) for n in range(1, MOST_LEVELS + 1))
    + "</text:list-style>"
    for name, level in (
        ("Bullets", '<text:list-level-style-bullet text:level="{n}" text:bullet-char="•"/>'),
        ("Numbers", '<text:list-level-style-number text:level="{n}" style:num-format="1" '
                    'style:num-suffix="."/>'),
    )
)  # fmt: skip
