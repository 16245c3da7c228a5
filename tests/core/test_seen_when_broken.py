"""Lines that were once broken by hand without any test that saw it: each has one here."""

from __future__ import annotations

from datetime import datetime, timedelta
from pathlib import Path
from unittest.mock import patch

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.core import test_heads_stop, test_master_rules, test_stories

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.rules import add_rule
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import (
    add_story,
    add_waiting,
    pour,
    set_story_text,
    start_story,
)
from hidden_frame.edit.text.listing import set_list
from hidden_frame.interact.words.storied import running_into
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story, stack_of
from hidden_frame.model.publication import Setup
from hidden_frame.model.stories import Waiting
from hidden_frame.model.text import (
    Contents,
    Head,
    ListLevel,
    Note,
    NoteList,
    Paragraph,
    Run,
)
from hidden_frame.settle.settling import settled
from hidden_frame.storage import door, versions
from hidden_frame.storage.versions import Version, keep_version, versions_of, wanted
from hidden_frame.typeset.breaking import resume, total_fit
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.measures import fit_of
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.segments import segments
from hidden_frame.typeset.shaping import setting_of

SETTING = setting_of(font_book().face("Spectral"), 10.0)


# -- versions --------------------------------------------------------------------------------


def test_the_last_of_each_of_thirty_days_stays_and_no_more():
    noon = datetime(2031, 5, 31, 12)
    every = [Version(Path(str(n)), (noon - timedelta(days=n)).timestamp(), 1) for n in range(45)]
    stay = wanted(every, noon.timestamp() + 7 * 86_400)
    assert [v.kept for v in stay] == [Path(str(n)) for n in range(30)]


def test_the_only_version_stays_however_large_and_nothing_goes_on_for_ever(
    small, tmp_path, monkeypatch
):
    sweeps, sweep = [], versions.sweep_pictures

    def counted(*given):
        sweeps.append(given)
        assert len(sweeps) < 20, "it takes away what there is for ever"
        sweep(*given)

    monkeypatch.setattr(versions, "sweep_pictures", counted)
    for n in (1, 2):
        keep_version(tmp_path / "a.hframe", small, {}, n, 1, tmp_path / "kept")
    (left,) = versions_of(tmp_path / "a.hframe", tmp_path / "kept")
    assert left.steps == 2


# -- masters by rule -------------------------------------------------------------------------


def test_a_rule_for_one_page_ends_what_runs_until_another_rule():
    publication, made = test_master_rules.book(10)
    night = ("body", "night " * 60)
    publication, _ = test_master_rules.told(
        publication, [("title", "-"), night, ("part", "-"), night, night]
    )
    for style, master, until in (("part", "Wide", "page"), ("title", "Opener", "rule")):
        publication, _ = add_rule(publication, style=style, masters=(made[master],), until=until)
    done = settled(publication)
    names = {m.id: m.name for m in done.masters}
    stacks = [names[stack_of(done, p)[0]] for p in all_pages(done)]
    wide = stacks.index("Wide")
    assert wide > 1 and set(stacks[:wide]) == {"Opener"}
    assert stacks.count("Wide") == 1 and set(stacks[wide + 1 :]) == {"Text"}


# -- lists -----------------------------------------------------------------------------------


def _page_with_frames(*tops):
    """One page with frames of these distances from its head, and the ids of page and frames."""
    publication = new_publication("Lists", Setup(trim=Size(300, 400)), 2)
    page, frames = all_pages(publication)[0].id, []
    for top in tops:
        frame = TextFrame(id="", x=20, y=top, width=240, height=110)
        publication, item = add_item(publication, page, frame)
        frames.append(item)
    return publication, page, frames


def test_contents_list_a_page_from_its_head_to_its_foot_whatever_the_levels():
    publication, page, (low, high, listed) = _page_with_frames(250, 20, 135)
    for frame, style, name in ((low, "heading", "Below"), (high, "folio", "Above")):
        publication, story = start_story(publication, page, frame)
        text = (Paragraph(style, (Run(name),)), Paragraph("body", (Run("night"),)))
        publication = set_story_text(publication, story, text)
    contents = Contents(levels=(ListLevel("heading", "body"), ListLevel("folio", "body")))
    publication = settled(set_list(publication, page, listed, contents))
    frame = next(i for i in find_page(publication, page).items if i.id == listed)
    assert [p.content[0].text.split("\t")[0] for p in frame.text] == ["Above", "Below"]


def test_notes_of_a_text_that_lists_by_itself_are_not_listed():
    publication, page, (told, listing, noted) = _page_with_frames(40, 120, 250)
    note = Note((Run("an oil lamp"),))
    for frame in (told, listing):
        publication, story = start_story(publication, page, frame)
        publication = set_story_text(
            publication, story, (Paragraph("body", (Run("A lamp"), note)),)
        )
    contents = Contents(levels=(ListLevel("heading", "body"),))
    publication = set_list(publication, page, listing, contents)
    publication = settled(set_list(publication, page, noted, NoteList(shown="body")))
    frame = next(i for i in find_page(publication, page).items if i.id == noted)
    assert len(frame.text) == 1


# -- heads -----------------------------------------------------------------------------------


def test_a_heading_below_a_text_of_the_page_does_not_open_it():
    night = ("body", "night " * 100)
    publication, _ = test_heads_stop.book(
        [("chapter", "One"), night, ("chapter", "Two"), night], starts="anywhere"
    )
    chapter = next(s for s in publication.paragraph_styles if s.id == "chapter")
    styles = tuple(replace(s, starts="page") if s is chapter else s
                   for s in publication.paragraph_styles)  # fmt: skip
    publication = settled(replace(publication, paragraph_styles=styles))
    head = Head("chapter", "at the top")
    before = test_heads_stop.shown(publication, head)
    at = before.index("Two")
    own = TextFrame(id="", x=40, y=5, width=220, height=30,
                    text=(Paragraph("body", (Run("Before all else"),)),))  # fmt: skip
    publication, _ = add_item(publication, all_pages(publication)[at].id, own)
    after = test_heads_stop.shown(publication, head)
    assert after[at] == "One" and after[:at] + after[at + 1 :] == before[:at] + before[at + 1 :]


# -- stories ---------------------------------------------------------------------------------


@given(st.integers(0, 9), st.integers(0, 4), st.integers(0, 4))
def test_a_waiting_picture_stays_at_its_paragraph_whatever_comes_before_it(at, gone, more):
    publication = new_publication("Tray", Setup(trim=Size(300, 400)), 1)
    text = tuple(Paragraph("body", (Run(f"paragraph {n}"),)) for n in range(10))
    publication, story = add_story(publication, "Story", text, ())
    waiting = tuple(Waiting(f"{n}" * 64, n) for n in (2, 5, 9))
    publication = add_waiting(publication, story, waiting)
    new = tuple(Paragraph("body", (Run(f"new {n}"),)) for n in range(more))
    changed = (*text[:at], *new, *text[at + gone :])
    publication = set_story_text(publication, story, changed or text)
    now = find_story(publication, story)
    for was, one in zip(waiting, now.waiting, strict=True):
        assert one.picture == was.picture and 0 <= one.paragraph < len(now.text)
        if text[was.paragraph] in now.text:
            assert now.text[one.paragraph] == text[was.paragraph]


def test_a_section_keeps_its_first_page_when_the_text_that_made_it_goes():
    publication, _, _ = test_stories.book(pages=1, height=60)
    text = test_stories.paragraphs(["sky " * 200])
    publication, story = pour(publication, publication.sections[0].id, text)
    publication = settled(publication)
    third = all_pages(publication)[2].id
    assert find_page(publication, third).made
    on = running_into(Composer().compose(publication), third)
    publication, _ = start_section(publication, third, "Two", None, on)
    publication = settled(publication)
    short = settled(set_story_text(publication, story, test_stories.paragraphs(["One"])))
    assert [s.name for s in short.sections][1:] == ["Two"]
    assert [p.id for p in short.sections[1].pages] == [third]


# -- the clipboard ---------------------------------------------------------------------------


def test_more_than_a_gigabyte_is_not_unpacked(monkeypatch):
    assert door.MOST_CLIP == 1_073_741_824
    monkeypatch.setattr(door, "MOST_CLIP", 10)
    with pytest.raises(Refusal, match="over 1 GB"):
        door.from_clipboard(b"\x93" + bytes(10), list)
    assert door.from_clipboard(b"\x91\x07", list) == [7]


# -- breaking --------------------------------------------------------------------------------


def _broken(strings, marked, measure):
    """Where lines of words end, of which one stretch is that of a marker."""
    spans = tuple(
        Span(words, SETTING, (0.0, 0.0, 0.0), language="en_GB", marker=n == marked)
        for n, words in enumerate(strings)
    )
    paragraph = ParagraphSpec(spans, SETTING, 14.0, "justified")
    fit = fit_of(paragraph, measure)
    return [total_fit.best_breaks(s, fit, 0.0) for s in segments(paragraph) if s.words]


@given(st.floats(60, 200), st.sampled_from([None, 1]), st.sampled_from([None, 1]))
def test_the_same_words_of_a_marker_and_as_they_are_typed_are_broken_each_in_its_way(
    measure, first, then
):
    """The words of a marker are never divided."""
    words = ("a considerable ", "constellation correspondence ", "imagination of the night " * 3)
    resume.forget()
    with patch.object(resume, "LONG", 2):
        _broken(words, first, measure)
        after = _broken(words, then, measure)
    with patch.object(total_fit, "resumed", lambda *_: None):
        assert after == _broken(words, then, measure)
