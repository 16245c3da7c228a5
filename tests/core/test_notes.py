"""Notes: numbered by their order, listed at the end, whatever is edited."""

from __future__ import annotations

import io

import pypdf
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.checks.stories import story_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.notes import notes_in
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import delete_paragraph_style
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import add_story, pour, set_story_text
from hidden_frame.edit.text.listing import note_style, set_list
from hidden_frame.edit.text.write import cut_out, delete, insert_marker, plain, put_in
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Note, NoteList, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes


def book():
    """A story through six pages, and a frame that lists its notes on the first."""
    publication = new_publication("Notes", Setup(trim=Size(300, 260)), 6)
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=150, main=1)
    publication, _ = add_item(publication, master, frame)
    publication = replace(publication, default_masters=(master,))
    text = tuple(Paragraph("body", (Run("night " * 40),)) for _ in range(8))
    publication, story = pour(publication, publication.sections[0].id, text, "Story")
    publication, style = note_style(publication, "body")
    page = all_pages(publication)[0].id
    publication, item = add_item(
        publication, page, TextFrame(id="", x=5, y=5, width=30, height=200)
    )
    return set_list(publication, page, item, NoteList(shown=style)), story, page, item


def note(words):
    return Note((Run(words),))


def lines(publication, page, item):
    frame = next(i for i in find_page(publication, page).items if i.id == item)
    return ["".join(c.text for c in p.content) for p in frame.text]


def numbers(publication, story):
    return [n.number for _, n in notes_in(find_story(publication, story).text)]


@settings(max_examples=40)
@given(st.lists(st.tuples(st.integers(0, 7), st.integers(0, 200)), min_size=1, max_size=6))
def test_notes_are_numbered_in_the_order_of_the_text_and_listed_so(places):
    publication, story, page, item = book()
    composer = Composer()
    for n, place in enumerate(places):
        text = find_story(publication, story).text
        text, _ = insert_marker(text, place, note(f"words {n}"))
        publication = settled(set_story_text(publication, story, text), composer)
        count = n + 1
        assert numbers(publication, story) == [str(k + 1) for k in range(count)]
        told = lines(publication, page, item)
        said = ["".join(r.text for r in x.content) for _, x in
                notes_in(find_story(publication, story).text)]  # fmt: skip
        assert told == [f"{k + 1}\t{words}" for k, words in enumerate(said)]
        assert settled(publication, composer) is publication


def test_a_note_that_is_cut_moves_with_its_words_and_the_others_close_up():
    publication, story, page, item = book()
    text = find_story(publication, story).text
    for n in range(3):
        text, _ = insert_marker(text, (n, 5), note(f"note {n}"))
    publication = settled(set_story_text(publication, story, text))
    text = find_story(publication, story).text
    piece = cut_out(text, (0, 5), (0, 6))
    rest, _ = delete(text, (0, 5), (0, 6))
    publication = settled(set_story_text(publication, story, rest))
    assert lines(publication, page, item) == ["1\tnote 1", "2\tnote 2"]
    back, _ = put_in(find_story(publication, story).text, (5, 3), piece)
    publication = settled(set_story_text(publication, story, back))
    assert lines(publication, page, item)[2] == "3\tnote 0"
    assert plain(back) == plain(rest)


@pytest.mark.parametrize(
    ("count", "expected"),
    [("in each story", ["1"]), ("through the publication", ["2"])],
)
def test_numbers_begin_anew_or_go_on_from_story_to_story(count, expected):
    publication, story, *_ = book()
    publication = replace(publication, note_count=count)
    text, _ = insert_marker(find_story(publication, story).text, (0, 0), note("one"))
    publication = set_story_text(publication, story, text)
    other, _ = insert_marker((Paragraph("body", (Run("words"),)),), (0, 5), note("two"))
    publication, second = add_story(publication, "Second", other, ())
    publication = settled(publication)
    assert numbers(publication, story) == ["1"] and numbers(publication, second) == expected


def test_the_number_is_raised_on_the_page_and_its_line_in_the_list_leads_there():
    publication, story, page, item = book()
    text, _ = insert_marker(find_story(publication, story).text, (0, 11), note("See there."))
    publication = settled(set_story_text(publication, story, text))
    composition = Composer().compose(publication)
    scene = composition.scene(page)
    runs = [r for p in scene.placed if p.drawing.told for line in p.drawing.text.text.lines
            for r in line.runs if r.text.strip() == "1"]  # fmt: skip
    (raised,) = runs
    plain_run = next(r for p in scene.placed if p.drawing.told
                     for r in p.drawing.text.text.lines[0].runs)  # fmt: skip
    higher = raised.setting.shift > 0 or raised.setting.manner.features
    assert higher and raised.setting is not plain_run.setting
    frame = next(i for i in find_page(publication, page).items if i.id == item)
    assert frame.text[0].goes_to == page
    annotated = pypdf.PdfReader(io.BytesIO(pdf_bytes(composition, {}))).pages[0]["/Annots"]
    assert len(annotated) >= 1


def test_notes_are_saved_and_outlive_their_style():
    publication, story, page, item = book()
    text, _ = insert_marker(find_story(publication, story).text, (0, 3), note("words"))
    publication = check(settled(set_story_text(publication, story, text)))
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication
    listing = next(i for i in find_page(publication, page).items if i.id == item).notes
    gone = settled(delete_paragraph_style(publication, listing.shown, "body"))
    assert not problems(gone) and lines(gone, page, item) == ["1\twords"]


def test_notes_that_no_list_shows_are_told_until_one_does():
    publication, story, page, item = book()
    text, _ = insert_marker(find_story(publication, story).text, (1, 5), note("a light"))
    listed = settled(set_story_text(publication, story, text))
    told = [f for f in story_findings(Composer().compose(listed)) if "note" in f.kind]
    assert told == []
    unlisted = settled(set_list(listed, page, item, None))
    (found,) = (f for f in story_findings(Composer().compose(unlisted)) if "note" in f.kind)
    assert found.sentence.startswith("1 note is not printed anywhere") and found.page_id == page
