"""References: what they say of headings, numbers, captions and named places, after every edit."""

from __future__ import annotations

import io

import pypdf
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.checks.names import reference_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.references import paragraph_at
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.edit.text.steps import length
from hidden_frame.edit.text.write import cut_out, delete, insert_marker, put_in, split
from hidden_frame.interact.finds.referring import placed, targets
from hidden_frame.interact.hands.places import put_in_here
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Marker, Paragraph, Reference, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes


def par(style, text):
    return Paragraph(style, (Run(text),) if text else ())


ROWS = (par("body", "See here. "), par("title", "Winter skies"), par("body", "night " * 150),
        par("title", "Spring"), par("body", "rain"))  # fmt: skip


def book(rows=ROWS):
    publication = new_publication("References", Setup(trim=Size(300, 260)), 6)
    publication = put_paragraph_style(
        publication, ParagraphStyle(id="title", name="Chapter title", size=14, leading=18,
                                    number=ListNumber(form="{1}")),
    )  # fmt: skip
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=150, main=1)
    publication, _ = add_item(publication, master, frame)
    publication = replace(publication, default_masters=(master,))
    return pour(publication, publication.sections[0].id, rows, "Story")


def referring(publication, story, words, tells, at=0):
    """A reference put at the end of a paragraph, to the first target with these words."""
    target = next(t for t in targets(Composer().compose(publication)) if words in t.words)
    publication, place = placed(publication, target)
    text = find_story(publication, story).text
    marker = Marker("reference", refers=Reference(place, tells))
    text, _ = insert_marker(text, (at, length(text[at])), marker)
    return settled(set_story_text(publication, story, text))


def said(publication, story, at=0):
    text = find_story(publication, story).text
    return [c.refers.said for c in text[at].content if isinstance(c, Marker)]


def test_title_number_and_folio():
    publication, story = book()
    for tells in ("text", "number", "number and text", "folio"):
        publication = referring(publication, story, "Spring", tells)
    folio = publication and said(publication, story)[-1]
    assert said(publication, story) == ["Spring", "2", "2 Spring", folio]
    flow = Composer().compose(publication).flow(story)
    page = flow.stops[flow.stop_of(3, 0)].page_id
    assert Composer().compose(publication).facts[page].folio == folio != "1"
    shown = " ".join(Composer().compose(publication).scene(all_pages(publication)[0].id).text_of())
    assert f"Spring22 Spring{folio}" in shown


@settings(max_examples=30)
@given(st.lists(st.tuples(st.integers(0, 4), st.integers(0, 200)), min_size=1, max_size=4))
def test_folios_follow_every_edit(edits):
    publication, story = book()
    publication = referring(publication, story, "Spring", "folio")
    composer = Composer()
    for at, words in edits:
        text = find_story(publication, story).text
        new = (*text[: at + 1], par("body", "night " * words), *text[at + 1 :])
        publication = settled(set_story_text(publication, story, new), composer)
        text = find_story(publication, story).text
        number = next(n for n, p in enumerate(text) if p.place)
        flow = Composer().compose(publication).flow(story)
        at_stop = flow.stop_of(number, 0)
        facts = Composer().compose(publication).facts
        folio = facts[flow.stops[at_stop].page_id].folio if at_stop is not None else ""
        assert said(publication, story) == [folio]
        assert settled(publication, composer) is publication


def test_a_renamed_heading_is_followed_and_a_lost_one_is_told():
    publication, story = book()
    publication = referring(publication, story, "Winter", "text")
    text = find_story(publication, story).text
    renamed = (*text[:1], replace(text[1], content=(Run("Autumn"),)), *text[2:])
    publication = settled(set_story_text(publication, story, renamed))
    assert said(publication, story) == ["Autumn"] and not list(reference_findings(publication))
    gone = settled(set_story_text(publication, story, (*renamed[:1], *renamed[2:])))
    assert said(gone, story) == [""]
    (finding,) = reference_findings(gone)
    assert "The story “Story” has a reference" in finding.sentence
    shown = Composer().compose(gone).scene(all_pages(gone)[0].id).text_of()
    assert any("See here. ?" in line for line in shown)


def test_a_named_place_of_a_frame_is_referred_to():
    publication, story = book()
    page = all_pages(publication)[2].id
    frame = TextFrame(id="", x=5, y=5, width=100, height=20, text=(par("body", "A map"),))
    publication, item = add_item(publication, page, frame)
    from hidden_frame.interact.finds.referring import ReferTarget

    publication, _ = placed(publication, ReferTarget(page, item, 0, "", ""), "The map")
    publication = referring(publication, story, "The map", "folio")
    assert said(publication, story) == ["3"]


def test_what_refers_to_a_heading_follows_it_when_it_is_cut_and_put_in_elsewhere():
    publication, story = book()
    publication = referring(publication, story, "Winter", "folio")
    text = find_story(publication, story).text
    winter = cut_out(text, (1, 0), (3, 0))
    rest, _ = delete(text, (1, 0), (3, 0))
    without = settled(set_story_text(publication, story, rest))
    moved, _ = put_in(rest, (2, 0), put_in_here(without, winter))
    assert moved[2] == text[1]
    after = settled(set_story_text(without, story, moved))
    stood = paragraph_at(Composer().compose(after), text[1].place)
    assert stood[0] == "Winter skies"
    assert said(after, story) == [page_facts(after)[stood[1]].folio]


def test_a_copy_of_a_heading_is_not_what_refers_to_it():
    publication, story = book()
    publication = referring(publication, story, "Spring", "text")
    text = find_story(publication, story).text
    copied = put_in_here(publication, cut_out(text, (3, 0), (4, 0)))
    assert copied[0] == replace(text[3], place="")
    frame = TextFrame(id="", x=5, y=5, width=100, height=20, text=(text[3],))
    page = all_pages(publication)[0].id
    on_page, _ = add_item(set_story_text(publication, story, text[:3]), page, frame)
    assert put_in_here(on_page, (text[3],))[0].place == ""
    # In another publication the same id may be given to something else one day.
    other, _ = book(())
    for strange in (f"place-{other.next_id + 3}", "place-" + "9" * 5000, "place-", "x" * 9):
        stranger = replace(text[3], place=strange, place_name="Spring")
        assert put_in_here(other, (stranger,))[0] == replace(text[3], place="")


def test_splitting_a_paragraph_leaves_its_place_with_its_first_words():
    text = (replace(par("title", "Winter skies"), place="place-1", short="W"),)
    parted, _ = split(text, (0, 6))
    assert [p.place for p in parted] == ["place-1", ""] and parted[1].short == ""
    joined, _ = delete(parted, (0, 6), (1, 0))
    assert joined == text


def test_references_are_saved_and_lead_to_their_page_in_the_pdf():
    publication, story = book()
    publication = check(referring(publication, story, "Spring", "folio"))
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication
    composition = Composer().compose(publication)
    reader = pypdf.PdfReader(io.BytesIO(pdf_bytes(composition, {})))
    pages = [p.indirect_reference for p in reader.pages]
    (link,) = reader.pages[0]["/Annots"]
    there = pages.index(link.get_object()["/Dest"][0])
    assert reader.page_labels[there] == said(publication, story)[0]
    left, low, right, high = [float(v) for v in link.get_object()["/Rect"]]
    assert 0 < right - left < 20 and 0 < high - low < 20
