"""Texts of several pages set together are those of each page by itself."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.batches import scenes_of, set_ahead
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.palette import palette
from hidden_frame.compose.textspec import specs
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.memory import MEMORY
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.typeset import paragraphs, segments, shaping
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.overflow import too_wide
from hidden_frame.typeset.paragraphs import set_paragraph
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.text import set_text

WORDS = st.lists(st.sampled_from(["night", "observatory", "is", "(so)", "a–b", "“mild”", "über"]),
                 min_size=1, max_size=90).map(" ".join)  # fmt: skip
FRAMES = st.lists(
    st.tuples(WORDS, st.sampled_from([90.0, 180.0, 181.5]), st.booleans(), st.integers(1, 2),
              st.sampled_from([None, "ochre"])),
    min_size=1, max_size=9,
)  # fmt: skip


def forget():
    shaping._shaped.clear()
    shaping._settings.clear()
    MEMORY.clear_stale()
    MEMORY.clear_stale()


def places(scenes):
    """Every word of each page with its place."""
    return [
        [(run.xs, line.top, line.text) for placed in scene.placed for p in placed.drawing.primitives
         if hasattr(p, "text") for line in p.text.lines for run in line.runs]
        for scene in scenes
    ]  # fmt: skip


def book(frames, divided):
    publication = new_publication("B", Setup(trim=TRIMS["A5"]), 4)
    body = replace(publication.paragraph_styles[0], alignment="justified", hyphenate=divided)
    publication = replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))
    pages = [p.id for p in all_pages(publication)]
    for n, (words, width, marked, columns, colour) in enumerate(frames):
        text = [Paragraph("body", (Run(words),)), Paragraph("body", (Run(words[::-1]),))]
        if marked:
            text.append(Paragraph("body", (Run(words), Marker("folio"))))
        frame = TextFrame(id="", x=40, y=40 + 7 * n, width=width, height=200, text=tuple(text),
                          columns=columns, text_colour=colour)  # fmt: skip
        publication, _ = add_item(publication, pages[n % len(pages)], frame)
    return publication, pages


@settings(max_examples=40)
@given(FRAMES, st.booleans())
def test_pages_are_alike_however_they_are_walked(frames, divided):
    publication, pages = book(frames, divided)
    forget()
    alone = places(Composer().compose(publication).scene(page) for page in pages)
    forget()
    together = places(scenes_of(Composer().compose(publication), pages))
    assert together == alone


def test_the_demo_is_alike_and_what_was_set_is_used(monkeypatch):
    publication, _ = almanac()
    pages = [p.id for p in all_pages(publication)]
    forget()
    alone = places(Composer().compose(publication).scene(page) for page in pages)
    forget()
    assert places(scenes_of(Composer().compose(publication), pages)) == alone


def test_paragraphs_that_were_set_ahead_are_not_set_again(monkeypatch):
    publication, pages = book([("night and day " * 9, 180.0, False, 1, None)] * 8, True)
    forget()
    composition = Composer().compose(publication)
    held = set_ahead(composition, pages)
    assert len(held[0][0]) == 16
    monkeypatch.setattr(paragraphs, "SetParagraph", lambda *_: pytest.fail("it is set again"))
    for page in pages:
        composition.scene(page)


ODD = st.lists(
    st.sampled_from(["night", "(so)", "a–b", "–", "—", "«", "»", "!", "12.5", "incomprehensibility",
                     "x" * 40, "https://example.invalid/a/b", "well-known-to-all", "\u00a0kept",
                     "e\u0301", "…", "“", "”"]),
    min_size=1, max_size=40,
).map(" ".join)  # fmt: skip


@settings(max_examples=60)
@given(st.lists(ODD, min_size=5, max_size=9), st.floats(12, 260), st.booleans(), st.booleans(),
       st.sampled_from(["line", "paragraph"]), st.floats(-20, 40))  # fmt: skip
def test_what_is_known_to_fit_fits(texts, measure, divided, justified, breaking, indent):
    """A line that stands out is found without the lines being made, or with them, alike."""
    publication = new_publication("B", Setup(trim=TRIMS["A5"]), 1)
    body = replace(
        publication.paragraph_styles[0], hyphenate=divided, breaking=breaking,
        alignment="justified" if justified else "left", indent_first=max(indent, -measure / 2),
    )  # fmt: skip
    publication = replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))
    known = palette(publication)
    found = specs(tuple(Paragraph("body", (Run(t),)) for t in texts), (), "recto", known)
    forget()
    held = set_paragraph.each(found, measure)
    assert len(held) == len(texts)
    text = set_text(found, [Region(0.0, measure)])
    before = too_wide(text)
    assert len(text.lines) == text.count
    assert too_wide(text) == before


WHOLE = st.lists(
    st.sampled_from(["night", "and", "over", "observatory", "(so)", "–", "—", "«", "»", "!", ""]),
    min_size=4, max_size=40,
).map(" ".join)  # fmt: skip


@settings(max_examples=150)
@given(WHOLE, st.floats(20, 260), st.booleans(), st.booleans(),
       st.sampled_from(["line", "paragraph"]))  # fmt: skip
def test_the_quick_way_to_words_sets_the_lines_of_the_general_one(
    words, measure, divided, justified, breaking
):
    """Paragraphs of one look, with dashes between spaces and other words that keep together."""
    publication = new_publication("B", Setup(trim=TRIMS["A5"]), 1)
    body = replace(
        publication.paragraph_styles[0], hyphenate=divided, breaking=breaking,
        alignment="justified" if justified else "left",
    )  # fmt: skip
    publication = replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))
    known = palette(publication)
    lines = []
    for quick in (True, False):
        forget()
        (spec,) = specs((Paragraph("body", (Run(words),)),), (), "recto", known)
        with pytest.MonkeyPatch.context() as patched:
            if not quick:
                patched.setattr(segments, "_is_plain", lambda _: False)
            found = set_lines(spec, measure)
        lines.append([
            (line.text, line.start, line.end, line.left, line.right, line.divided,
             [(run.xs, [w.text for w in run.words]) for run in line.runs])
            for line in found
        ])  # fmt: skip
    assert lines[0] == lines[1]
