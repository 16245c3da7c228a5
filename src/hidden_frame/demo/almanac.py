"""*Kestrel Ridge Observatory: Night Sky Almanac*, 32 pages.

>>> publication, blobs = almanac()
"""

from __future__ import annotations

import math
from itertools import pairwise

from msgspec.structs import replace

from hidden_frame.demo import words
from hidden_frame.demo.masters import INNER, B, H, M, Masters, W, build_masters
from hidden_frame.demo.pictures import LOGO, SEAL, comet_sketch, night_sky
from hidden_frame.demo.style import CHARACTERS, COLOURS, PARAGRAPHS, SETUP
from hidden_frame.edit.about import set_about, set_detail
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.layers import add_layer, change_layer
from hidden_frame.edit.looks.styles import (
    put_character_style,
    put_colour,
    put_paragraph_style,
    put_picture,
)
from hidden_frame.edit.masters.apply import apply_masters, set_section_masters
from hidden_frame.edit.masters.overrides import override
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.held import hold_pages
from hidden_frame.edit.pages.order import set_blind, set_guides
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.pages.ties import tie
from hidden_frame.edit.stories import add_story, link, rename_story, start_story
from hidden_frame.model.geometry import Guide
from hidden_frame.model.items import (
    Around,
    Crop,
    Insets,
    Item,
    Line,
    PictureFrame,
    Shape,
    TextFrame,
)
from hidden_frame.model.lookup import all_pages, positions, section_of
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Numbering, Publication
from hidden_frame.model.stories import Link, MainFrames
from hidden_frame.model.text import Anchor, Marker, Paragraph, Run
from hidden_frame.model.units import mm
from hidden_frame.storage.pictures import picture_from_bytes

TITLE = "Night Sky Almanac"
PAGES = 32
_FIRST_SEASON = 6  # index of the first season's opener
_SEASON_PAGES = 5


def almanac() -> tuple[Publication, dict[str, bytes]]:
    """The sample publication and the bytes of its pictures."""
    publication = new_publication(TITLE, SETUP, PAGES)
    publication, blobs, (logo, seal, sky, sketch) = _resources(publication)
    publication = set_about(
        publication,
        author="Kestrel Ridge Observatory",
        subject="What can be seen in the sky, month by month",
        keywords="astronomy, almanac, night sky",
    )
    publication = set_detail(publication, "Edition year", "2031")
    publication = set_detail(publication, "Volume", "12")
    publication, masters = build_masters(publication, logo, seal, sky)
    pages = [page.id for page in all_pages(publication)]
    publication = _sections(publication, masters, pages)
    publication = _front(publication, masters, pages, sky)
    for n, season in enumerate(words.SEASONS):
        first = _FIRST_SEASON + n * _SEASON_PAGES
        publication = _season(publication, masters, season, pages[first : first + _SEASON_PAGES])
    publication = _back(publication, masters, pages, sketch)
    publication = hold_pages(publication, [pages[0]], True)  # the cover stays first
    return tie(publication, pages[1], pages[2]), blobs  # dedication and title face each other


def _resources(
    publication: Publication,
) -> tuple[Publication, dict[str, bytes], tuple[str, str, str, str]]:
    for colour in COLOURS:
        publication = put_colour(publication, colour)
    for style in PARAGRAPHS:
        publication = put_paragraph_style(publication, style)
    for look in CHARACTERS:
        publication = put_character_style(publication, look)
    blobs: dict[str, bytes] = {}
    hashes = []
    files = (("logo.svg", LOGO), ("seal.svg", SEAL), ("night-sky.jpg", night_sky()),
             ("comet.tiff", comet_sketch()))  # fmt: skip
    for name, data in files:
        picture, data = picture_from_bytes(data, name)
        publication = put_picture(publication, picture)
        blobs[picture.hash] = data
        hashes.append(picture.hash)
    return publication, blobs, (hashes[0], hashes[1], hashes[2], hashes[3])


def _sections(publication: Publication, masters: Masters, pages: list[str]) -> Publication:
    none = Numbering(style="none")
    publication, cover = start_section(publication, pages[0], "Cover", none)
    roman = Numbering(style="lower roman", start=2)  # the cover is counted, as a recto
    publication, front = start_section(publication, pages[1], "Front matter", roman)
    for n, season in enumerate(words.SEASONS):
        numbering = Numbering(start=1) if n == 0 else Numbering()
        first = pages[_FIRST_SEASON + n * _SEASON_PAGES]
        publication, section = start_section(publication, first, season, numbering)
        table = masters.winter if season == "Winter" else masters.month
        publication = set_section_masters(publication, section, (table,))
    letters = Numbering(style="upper letters", start=1, prefix="V-")
    publication, visits = start_section(publication, pages[26], "Visitors", letters)
    publication, back = start_section(publication, pages[31], "Back cover", none)
    publication = set_section_masters(publication, cover, (masters.cover,))
    publication = set_section_masters(publication, back, (masters.back,))
    publication = set_section_masters(publication, front, (masters.text,))
    return set_section_masters(publication, visits, (masters.notes,))


def _add(publication: Publication, page: str, *items: Item) -> Publication:
    for item in items:
        publication, _ = add_item(publication, page, item)
    return publication


def _frame(name: str, paragraphs: list[Paragraph], **place: object) -> TextFrame:
    return TextFrame(id="", name=name, text=tuple(paragraphs), **place)  # type: ignore[arg-type]


def _line(style: str, text: str) -> Paragraph:
    return Paragraph(style, (Run(text),))


def _front(publication: Publication, masters: Masters, pages: list[str], sky: str) -> Publication:
    """Title page (its folio blind), contents, foreword, how to read the tables."""
    blank, title, contents, foreword, tables = pages[1:6]
    publication = apply_masters(publication, [title], (masters.base,))
    publication = set_blind(publication, [title], True)
    left = M.outside
    publication = _add(
        publication,
        title,
        _frame("Title", [_line("heading", TITLE), _line("body", "Kestrel Ridge Observatory")],
               x=M.inside, y=H * 0.3, width=INNER, height=80),
        Line(id="", name="Title rule", x=M.inside, y=H * 0.3 + 84, width=mm(40), height=0,
             stroke=Stroke(colour="copper", width=2)),
    )  # fmt: skip
    rows = [("Foreword", "v"), ("How to read the tables", "vi")]
    listed = [_line("heading", "Contents"), *(_line("contents", "\t".join(r)) for r in rows)]
    for n, (season, months) in enumerate(words.SEASONS.items()):
        first = 1 + n * _SEASON_PAGES
        listed.append(_line("contents", f"{season}\t{first}"))
        listed += [
            _line("contents-month", f"{month}\t{first + 2 + k}") for k, month in enumerate(months)
        ]
    rows = [("Visiting the ridge", "V-A"), ("Notes", "V-B")]
    listed += [_line("contents", "\t".join(r)) for r in rows]
    publication = _add(
        publication,
        contents,
        _frame("Contents", listed, x=left, y=M.top, width=INNER, height=mm(162)),
    )
    publication, proof = add_layer(publication, "Remarks")
    publication = change_layer(publication, proof, printing=False)
    remark = _frame("Remark", [_line("label", "Page numbers stand once Autumn is in.")],
                    x=left, y=mm(190), width=mm(70), height=22, radius=5, inset=5, layer=proof,
                    vertical="middle", fill=Fill("gold", tint=0.4))  # fmt: skip
    publication = _add(publication, contents, remark)
    paragraphs = [_line("heading", "Foreword")]
    paragraphs += _foreword(publication)
    section = section_of(publication, foreword).id
    publication, _ = add_story(
        publication, "Foreword", tuple(paragraphs), (MainFrames(section),)
    )  # it flows through what is a main frame in the front matter
    publication = _add(
        publication,
        foreword,
        _frame("Foreword", [], x=M.inside, y=M.top, width=INNER * 0.86, height=mm(156), main=1),
        PictureFrame(
            id="", name="Dome", x=M.inside, y=H - mm(60), width=mm(50), height=mm(30), radius=8,
            picture=sky, fit="free", crop=Crop(-560.0, -560.0, 0.425),
            stroke=Stroke(colour="gold", width=1),
        ),
        _frame("Caption", [_line("label", words.CAPTION)], x=M.inside + mm(54), y=H - mm(60),
               width=mm(52), height=mm(30), vertical="bottom", radius=8, fill=Fill("cream"),
               inset=Insets(top=8, bottom=10, left=12, right=16)),
    )  # fmt: skip
    terms = [_line("heading", "How to read the tables")]
    terms += [
        Paragraph("lead", (Run(f"{term}: ", "strong"), Run(text))) for term, text in words.HOW_TO
    ]
    told = [_line("lead", text) for text in words.EXAMPLE_TOLD]
    row = [_line("table-row", "\t".join(words.EXAMPLE))]
    publication = _add(
        publication,
        tables,
        _frame("Terms", terms, x=left, y=M.top, width=INNER * 0.86, height=mm(76)),
        _frame("Example", row, x=left, y=mm(105), width=INNER, height=mm(12), vertical="middle",
               fill=Fill("cream"), radius=6, inset=Insets(left=10, right=10)),
        _frame("Example told", told, x=left, y=mm(124), width=INNER * 0.86, height=mm(76)),
    )  # fmt: skip
    dedication = [_line("notes", "For everyone who carried the mirror up the hill.")]
    frame = _frame("Dedication", dedication, x=left, y=H * 0.36, width=INNER * 0.6, height=70)
    return _add(apply_masters(publication, [blank], ()), blank, frame)


def _foreword(publication: Publication) -> list[Paragraph]:
    """Its first words in small capitals, a sketch in the margin, and what guests wrote."""
    first, *rest = words.FOREWORD
    opening, told = first[:19], first[19:]
    comet = next(p.hash for p in publication.pictures if p.name.startswith("comet"))
    sketch = Anchor(
        width=58, height=38.7, stands="outside", picture=comet, distance=10,
        caption="A comet, drawn at the eyepiece", caption_style="anchored",
    )  # fmt: skip
    return [
        Paragraph("lead", (Run(opening, "small-capitals"), Run(told))),
        Paragraph("lead", (sketch, Run(rest[0]))),
        *(_line("lead", text) for text in rest[1:]),
        *(_line("quotation", text) for text in words.GUESTS),
    ]


def _season(
    publication: Publication, masters: Masters, season: str, pages: list[str]
) -> Publication:
    """An opener whose panel takes the season's colour, an article, three month tables."""
    opener, article, *months = pages
    publication = apply_masters(publication, [opener], (masters.opener,))
    colour = season.lower()
    publication = override(publication, opener, masters.opener_panel, fill=Fill(colour))
    recto = positions(publication)[opener] % 2  # the almanac opens on a recto
    left = M.inside if recto else M.outside
    publication = _add(
        publication,
        opener,
        _frame("Opener line", [_line("opener-line", words.OPENERS[season])],
               x=left, y=H * 0.56 + 106, width=INNER * 0.72, height=70),
    )  # fmt: skip
    publication = apply_masters(publication, [article], (masters.text,))
    if recto:
        publication = _article(publication, article, season, not recto)
    else:  # it faces its article: the sky goes on over the spine
        reach = override(publication, opener, masters.opener_sky, width=2 * W + 2 * B)
        publication = _article_below(reach, masters, article, season)
    if season == "Autumn":  # the page's own words in the master's frame, its marker still live
        words_here = (Run("Frost notes for "), Marker("section name"), Run("\t"), Marker("title"))
        head = (Paragraph("head", words_here),)
        publication = override(publication, article, masters.head, text=head)
    for n, (page, month) in enumerate(zip(months, words.SEASONS[season], strict=True)):
        publication = _month(publication, page, month, colour, (recto + n) % 2 == 1)
    return publication


def _article(publication: Publication, page: str, season: str, recto: bool) -> Publication:
    title, *paragraphs = words.ARTICLES[season]
    left = M.inside if recto else M.outside
    texts = [_line("body", paragraphs[0]), *(_line("body-next", t) for t in paragraphs[1:])]
    top = M.top + 44
    size = mm(58)
    return _add(
        publication,
        page,
        _frame("Heading", [_line("heading", title)], x=left, y=M.top, width=INNER, height=40),
        Line(id="", name="Season rule", x=left, y=M.top + 37, width=mm(24), height=0,
             stroke=Stroke(colour=season.lower(), width=3)),
        _frame("Article", texts, x=left, y=top, width=INNER, height=mm(40), columns=2,
               gutter=mm(6), grows=True),
        *_chart(left + (INNER - size) / 2, top + mm(40), size, season),
        _log(left, season),
    )  # fmt: skip


def _article_below(
    publication: Publication, masters: Masters, page: str, season: str
) -> Publication:
    """An article below the sky of the page that faces it, its chart hung in that sky."""
    title, *paragraphs = words.ARTICLES[season]
    texts = [_line("body", paragraphs[0]), *(_line("body-next", t) for t in paragraphs[1:])]
    left, foot, size = M.inside, H * 0.54 - B, mm(58)
    name = _line("heading", title)  # in its colour for dark ground, by itself
    publication = override(publication, page, masters.head, visible=False)
    return _add(
        publication,
        page,
        _frame("Heading", [name], x=left, y=foot - 52, width=INNER, height=40),
        Line(id="", name="Season rule", x=left, y=foot - 15, width=mm(24), height=0,
             stroke=Stroke(colour=season.lower(), width=3)),
        _frame("Article", texts, x=left, y=foot + 16, width=INNER, height=mm(40), columns=2,
               gutter=mm(6), grows=True),
        *_chart(left + (INNER - size) / 2, mm(24), size, season),
    )  # fmt: skip


def _log(left: float, season: str) -> TextFrame:
    """What the observers wrote down, in a panel at the page's foot."""
    lines = [_line("log-head", "From the log of the dome")]
    lines += [
        Paragraph("log", (Run(date, "strong"), Run(f"\t{entry}")))
        for date, entry in words.LOG[season]
    ]
    return _frame("Log", lines, x=left, y=H - M.bottom - mm(38), width=INNER, height=mm(38),
                  vertical="middle", radius=8, fill=Fill(season.lower(), tint=0.14),
                  inset=Insets(left=14, right=14))  # fmt: skip


def _chart(x: float, y: float, size: float, season: str) -> list[Item]:
    """An invented star chart: a night disc with a few stars and a line between them.

    The text beneath runs around the disc.
    """
    colour = season.lower()
    items: list[Item] = [
        Shape(id="", name="Chart", x=x, y=y, width=size, height=size, form="ellipse",
              fill=Fill("night"), stroke=Stroke(colour=colour, width=2),
              around=Around("shape", 9))
    ]  # fmt: skip
    turn = {"spring": 0.2, "summer": 1.1, "autumn": 2.3, "winter": 3.6}[colour]
    centre = [
        (size / 2 + size * r * math.cos(turn + a), size / 2 + size * r * math.sin(turn + a))
        for r, a in ((0.12, 0), (0.3, 0.8), (0.24, 2.2), (0.36, 3.1), (0.2, 4.4), (0.34, 5.3))
    ]
    for (x1, y1), (x2, y2) in pairwise(centre):
        length, angle = math.hypot(x2 - x1, y2 - y1), math.degrees(math.atan2(y2 - y1, x2 - x1))
        items.append(
            Line(id="", name="Chart line", x=x + (x1 + x2 - length) / 2, y=y + (y1 + y2) / 2,
                 width=length, height=0, rotation=angle,
                 stroke=Stroke(colour="gold", width=0.6, opacity=0.7, dash=(3, 2)))
        )  # fmt: skip
    for n, (cx, cy) in enumerate(centre):
        d = 4.0 + n % 3 * 1.6
        items.append(
            Shape(id="", name="Star", x=x + cx - d / 2, y=y + cy - d / 2, width=d, height=d,
                  form="ellipse", fill=Fill("cream"))
        )  # fmt: skip
    return [replace(item, group=f"chart-{colour}") for item in items]


def _month(
    publication: Publication, page: str, month: str, colour: str, recto: bool
) -> Publication:
    left = M.inside if recto else M.outside
    rows = [_line("table-row", "\t".join(row)) for row in words.month_rows(month)]
    return _add(
        publication,
        page,
        _frame("Month", [_line("month", month)], x=left, y=mm(22), width=INNER, height=44),
        _frame("Table", rows, x=left + 8, y=mm(71), width=INNER - 16, height=mm(130)),
        *_moons(month, left, mm(44), colour),
    )


def _moons(month: str, x: float, y: float, colour: str) -> list[Item]:
    """Eight moons in a row, filled the more the fuller they are."""
    items: list[Item] = []
    step = INNER / 8
    for n, age in enumerate(words.moon_ages(month)):
        lit = 1 - abs(age - 0.5) * 2
        size = 20.0
        left = x + step * n + (step - size) / 2
        items.append(
            Shape(id="", name=f"Moon {n + 1}", x=left, y=y, width=size, height=size,
                  form="ellipse", fill=Fill("gold", opacity=round(0.12 + 0.88 * lit, 2)),
                  stroke=Stroke(colour=colour, width=1))
        )  # fmt: skip
    return items


def _back(publication: Publication, masters: Masters, pages: list[str], sketch: str) -> Publication:
    """The visitors' map without a master, two notes pages, and the members' seal."""
    visitors = pages[26]
    publication = apply_masters(publication, [visitors], ())
    publication = _add(publication, visitors, *_map())
    publication = _visits(publication, visitors)
    publication = set_guides(publication, visitors, (Guide("horizontal", H * 0.62),))
    publication = apply_masters(publication, [pages[5], pages[28]], (masters.seal,), "add")
    # It sleeps: the map follows no master now.
    publication = override(publication, visitors, masters.foot_rule, visible=False)
    comet = PictureFrame(
        id="", name="Comet sketch", x=M.inside + mm(30), y=mm(70), width=mm(76), height=mm(51),
        rotation=-5, picture=sketch, fit="actual", blend="multiply", opacity=0.9,
    )  # fmt: skip
    publication = _add(publication, pages[28], comet)
    wide = Stroke(colour="autumn", width=2.5)
    return override(publication, pages[27], masters.foot_rule, stroke=wide)


def _map() -> list[Item]:
    paper = Fill("cream")
    items: list[Item] = [
        Shape(id="", name="Map ground", x=-B, y=-B, width=W + 2 * B, height=H + 2 * B,
              layer="ground", fill=paper)
    ]  # fmt: skip
    for n in range(7):
        grow = 1 - n * 0.13
        width, height = W * 0.86 * grow, H * 0.46 * grow
        items.append(
            Shape(id="", name=f"Contour {n + 1}", form="ellipse", rotation=-14 + n * 2,
                  x=W * 0.52 - width / 2, y=H * 0.33 - height / 2, width=width, height=height,
                  fill=Fill("spring", tint=0.16 + n * 0.07),
                  stroke=Stroke(colour="spring", width=0.6))
        )  # fmt: skip
    walk = [(W * 0.16, H * 0.56), (W * 0.3, H * 0.47), (W * 0.42, H * 0.42), (W * 0.5, H * 0.33)]
    for n, ((x1, y1), (x2, y2)) in enumerate(pairwise(walk)):
        length, angle = math.hypot(x2 - x1, y2 - y1), math.degrees(math.atan2(y2 - y1, x2 - x1))
        items.append(
            Line(id="", name=f"Path {n + 1}", x=(x1 + x2 - length) / 2, y=(y1 + y2) / 2,
                 width=length, height=0, rotation=angle,
                 stroke=Stroke(colour="autumn", width=2, dash=(6, 3)))
        )  # fmt: skip
    places = (("Lower car park", walk[0]), ("Gate", walk[1]), ("Dome", walk[-1]))
    for name, (x, y) in places:
        items.append(
            Shape(id="", name=f"{name} mark", form="ellipse", x=x - 5, y=y - 5, width=10,
                  height=10, fill=Fill("autumn"), stroke=Stroke(colour="cream", width=1.5))
        )  # fmt: skip
        items.append(_frame(name, [_line("label", name)], x=x + 9, y=y - 7, width=110, height=16))
    return items


def _visits(publication: Publication, page: str) -> Publication:
    """How to come, in a frame that is linked by hand to a sidebar."""
    text = [_line("heading", "Visiting the ridge"), *(_line("lead", t) for t in words.VISITS)]
    wide = INNER * 0.55
    frame = _frame("Visits", text, x=M.outside, y=H * 0.64, width=wide, height=mm(62),
                   layer="content")  # fmt: skip
    aside = _frame("Visits, sidebar", [], x=M.outside + wide + mm(6), y=H * 0.64 + 34,
                   width=INNER - wide - mm(6), height=mm(62) - 34, layer="content", radius=8,
                   fill=Fill("spring", tint=0.14), inset=10)  # fmt: skip
    publication, first = add_item(publication, page, frame)
    publication, second = add_item(publication, page, aside)
    publication, story = start_story(publication, page, first)
    publication = link(publication, story, page, second, Link(page, first))
    return rename_story(publication, story, "Visiting the ridge")
