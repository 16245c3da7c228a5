"""Stories that go along with pages to another publication."""

from __future__ import annotations

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.checks.sections import section_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.demo.book import long_book
from hidden_frame.edit.carry.pages import (
    pages_copied,
    pages_pasted,
    section_copied,
    section_pasted,
)
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import StoryPlace, begin_with
from hidden_frame.edit.stories import link, set_story_text, start_story
from hidden_frame.edit.text.write import insert_marker, plain
from hidden_frame.interact.hands.carried import StoryClip, stories_copied, stories_pasted
from hidden_frame.interact.hands.places import with_places_here
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_section
from hidden_frame.model.publication import Setup
from hidden_frame.model.stories import Link, MainFrames
from hidden_frame.model.text import Marker, Reference
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=1))
PAGES = [p.id for p in all_pages(BOOK)]
COMPOSED = Composer().compose(BOOK)
OTHER = new_publication("Other", Setup(trim=TRIMS["A4"]), 3)


def lines(publication, pages):
    composition = Composer().compose(publication)
    return [composition.scene(p).text_of() for p in pages]


def letters(text):
    """Without what lines begin, end and are divided with."""
    return "".join(c for c in text if c not in "\u00ad-‐" and not c.isspace())


def carried(pages):
    clips = stories_copied(COMPOSED, pages)
    kept = msgspec.msgpack.decode(msgspec.msgpack.encode(clips), type=tuple[StoryClip, ...])
    assert kept == clips
    return pages_copied(BOOK, pages), clips


@settings(max_examples=12, deadline=None)
@given(st.sets(st.sampled_from(PAGES[4:16]), min_size=1, max_size=5))
def test_what_pages_show_comes_along_and_no_word_more(chosen):
    pages = [p for p in PAGES if p in chosen]
    parcel, clips = carried(pages)
    other, made = pages_pasted(OTHER, parcel, OTHER.sections[0].id, 1)
    shown = stories_pasted(other, clips, made, "shown")
    assert problems(shown) == [] and problems(other) == []
    if not clips:
        assert shown == other
        return
    (story,) = shown.stories
    flow = Composer().compose(shown).flow(story.id)
    assert [s.page for s in story.path] == [s.page_id for s in flow.stops]
    before = COMPOSED.flow(BOOK.stories[0].id)
    here = [
        line.text
        for stop, part in zip(before.stops, before.parts, strict=True) if stop.page_id in chosen
        for line in part.text.lines
    ]  # fmt: skip
    unnumbered = "".join(c for c in "".join(here) if not c.isdigit())  # chapters have numbers
    assert letters(plain(story.text)) == letters(unnumbered)
    whole = stories_pasted(other, clips, made, "whole")
    assert plain(whole.stories[0].text) == plain(BOOK.stories[0].text)
    assert problems(whole) == []
    assert stories_pasted(other, clips, made, "empty") is other


def test_a_section_brings_its_story_which_flows_and_grows_as_before():
    section = next(s for s in BOOK.sections if MainFrames(s.id) in BOOK.stories[0].path)
    pages = [p.id for p in section.pages]
    clips = stories_copied(COMPOSED, pages)
    other = section_pasted(OTHER, section_copied(BOOK, section.id), OTHER.sections[0].id)
    after = stories_pasted(other.publication, clips, other.pages, "whole", other.section_id)
    (story,) = after.stories
    assert story.path == (MainFrames(other.section_id),) and story.grows
    grew = settled(after)
    assert problems(grew) == []
    assert Composer().compose(grew).flow(story.id).rest is None
    assert len(find_section(grew, other.section_id).pages) > 1


def put_in(publication, source, section_id, along):
    """A section put in at the end, as from the clipboard."""
    composition = Composer().compose(source)
    clip = section_copied(source, section_id)
    stories = stories_copied(composition, [p.id for p in clip.pages]) if along != "empty" else ()
    publication, clip, stories = with_places_here(publication, clip, stories, along)
    made = section_pasted(publication, clip, publication.sections[-1].id)
    after = stories_pasted(made.publication, stories, made.pages, along, made.section_id)
    after = settled(after)
    assert problems(after) == []
    return after, find_section(after, made.section_id)


def test_a_section_that_begins_with_a_heading_begins_with_its_own_one_elsewhere():
    story = BOOK.stories[0]
    section = next(s for s in BOOK.sections if MainFrames(s.id) in story.path)
    at = 0
    source = settled(begin_with(BOOK, section.id, StoryPlace(story.id, at)))
    place = find_section(source, section.id).begins
    text = source.stories[0].text
    text, _ = insert_marker(text, (at + 1, 3), Marker("reference", refers=Reference(place, "text")))
    source = settled(set_story_text(source, story.id, text))
    other = OTHER
    for count in (1, 2, 3):
        other, made = put_in(other, source, section.id, "whole")
        new = other.stories[-1].text
        assert new[at].place == made.begins != ""
        assert {m.refers.place for p in new for m in p.content if isinstance(m, Marker)
                and m.refers is not None} == {made.begins}  # fmt: skip
        assert len({s.begins for s in other.sections if s.begins}) == count
        assert list(section_findings(Composer().compose(other))) == []
    assert put_in(OTHER, source, section.id, "empty")[1].begins == ""
    assert put_in(source, source, section.id, "empty")[1].begins == ""  # its story stays there


@pytest.mark.parametrize("along", ["whole", "shown"])
def test_linked_frames_find_each_other_again(along):
    source = new_publication("New", Setup(trim=TRIMS["A5"]), 3)
    pages = [p.id for p in all_pages(source)]
    text = BOOK.stories[0].text[3:8]
    known = {s.name: s.id for s in source.paragraph_styles}
    style = next(iter(known.values()))
    text = tuple(msgspec.structs.replace(p, style=style) for p in text)
    frame = TextFrame(id="", x=40, y=50, width=300, height=90, text=text)
    ids = []
    for page in pages:
        source, item = add_item(source, page, msgspec.structs.replace(frame, text=()))
        ids.append(item)
    source, story = start_story(source, pages[0], ids[0])
    source = set_story_text(source, story, text)
    for n in (1, 2):
        source = link(source, story, pages[n], ids[n], Link(pages[n - 1], ids[n - 1]))
    composition = Composer().compose(source)
    clips = stories_copied(composition, pages[1:])
    other, made = pages_pasted(OTHER, pages_copied(source, pages[1:]), OTHER.sections[0].id, 0)
    after = stories_pasted(other, clips, made, along)
    (new,) = after.stories
    assert [s.page for s in new.path] == made
    expected = lines(source, pages[1:] if along == "shown" else pages[:2])
    found = lines(after, made)
    if along == "whole":
        assert found[0][:2] == expected[0][:2] and new.text[0].content == text[0].content
    else:
        assert [x.strip() for x in found[0]] == [x.strip() for x in expected[0]]
