"""What helps a story that does not fit: each offer, taken, does what it says."""

from __future__ import annotations

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import link_main, pour, set_story_text, start_story
from hidden_frame.edit.text.tighten import MOST, tightened
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.hands.filling import fillable, filled_pages
from hidden_frame.interact.words.storied import helped, offers, state
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story
from hidden_frame.model.publication import Setup
from hidden_frame.model.stories import Link
from hidden_frame.model.styles import computed_paragraphs
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled


def overset(words=900, height=100.0, y=60.0, pages=4):
    """A story in one frame of the first page; the frame's id and the story's."""
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), pages)
    page = all_pages(publication)[0].id
    text = tuple(Paragraph("body", (Run("word " * 60),)) for _ in range(words // 60))
    frame = TextFrame(id="", x=40, y=y, width=200, height=height, text=text)
    publication, item = add_item(publication, page, frame)
    publication, story = start_story(publication, page, item)
    return publication, page, item, story


def left(publication, story):
    return state(Composer().compose(publication), story).left


@settings(max_examples=25, deadline=None)
@given(st.floats(40, 500), st.floats(20, 200), st.integers(120, 1500))
@example(448.0, 84.0, 300)  # room for a line, which its paragraph may not leave alone
def test_an_offer_taken_leaves_fewer_words_and_is_not_made_again(height, y, words):
    publication, page, _, story = overset(words, height, y)
    for offer in offers(Composer().compose(publication), story):
        section = publication.sections[0].id
        after = settled(helped(publication, story, offer.kind, section))
        assert find_story(after, story).text is find_story(publication, story).text
        assert problems(after) == []
        if offer.kind == "enlarge":
            assert left(after, story) < left(publication, story)
            frame = find_page(after, page).items[0]
            setup = publication.setup
            assert frame.y + frame.height == pytest.approx(setup.trim.height - setup.margins.bottom)
            again = offers(Composer().compose(after), story)
            assert "enlarge" not in [o.kind for o in again]


def test_a_frame_at_the_foot_is_not_to_be_enlarged():
    setup = Setup(trim=TRIMS["A5"])
    room = setup.trim.height - setup.margins.bottom - 60
    publication, _, _, story = overset(height=room - 1)
    kinds = [o.kind for o in offers(Composer().compose(publication), story)]
    assert "enlarge" not in kinds and "jump" in kinds


def test_pages_are_filled_in_order_and_those_that_hold_something_are_passed_over():
    publication, page, item, story = overset(pages=6)
    pages = [p.id for p in all_pages(publication)]
    publication, _ = add_item(publication, pages[2], TextFrame(id="", x=9, y=9, width=9, height=9))
    found = fillable(Composer().compose(publication), pages)
    assert found.empty == (pages[1], *pages[3:]) and found.passed == (pages[0], pages[2])
    after = filled_pages(publication, story, Link(page, item), found.empty)
    assert [s.page for s in find_story(after, story).path] == [pages[0], *found.empty]
    assert left(after, story) == 0 and problems(after) == []
    assert fillable(Composer().compose(after), pages).empty == ()
    with pytest.raises(Refusal, match="drag across empty"):
        filled_pages(after, story, Link(page, item), ())


def nearly(rng):
    """A story that lacks room for a few of its words, as a generator likes."""
    words = [rng.choice(["lamp", "harbour", "slowly", "a", "window", "evening", "of"])
             for _ in range(rng.randint(150, 400))]  # fmt: skip
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 1)
    page = all_pages(publication)[0].id
    text = (Paragraph("body", (Run(" ".join(words)),)),)
    frame = TextFrame(id="", x=40, y=40, width=220, height=500, text=text)
    publication, item = add_item(publication, page, frame)
    publication, story = start_story(publication, page, item)
    lines = Composer().compose(publication).flow(story).parts[0].text.lines
    high = len(lines) * lines_leading(publication)
    cut = change_items(publication, page, {item: {"height": high - 1}})
    return cut, story


def lines_leading(publication):
    return computed_paragraphs(publication.paragraph_styles)["body"].leading


@settings(max_examples=20, deadline=None)
@given(st.randoms(use_true_random=False))
def test_a_story_is_tightened_only_as_far_as_it_needs_and_says(rng):
    publication, story = nearly(rng)
    composition = Composer().compose(publication)
    kinds = [o.kind for o in offers(composition, story)]
    if "tighten" not in kinds:
        assert left(publication, story) > 0.03 * state(composition, story).words
        return
    try:
        after = helped(publication, story, "tighten", "")
    except Refusal as refusal:
        assert "nothing was changed" in str(refusal)
        tightest = tightened(publication, find_story(publication, story).text, MOST)
        assert left(set_story_text(publication, story, tightest), story) > 0
        return
    assert left(after, story) == 0 and problems(after) == []
    assert plain(find_story(after, story).text) == plain(find_story(publication, story).text)
    looks = {c.look.tracking for p in find_story(after, story).text for c in p.content}
    assert len(looks) == 1 and -MOST <= min(looks) <= -2
    less = tightened(publication, find_story(publication, story).text, -min(looks) - 2)
    assert left(set_story_text(publication, story, less), story) > 0
    again = tightened(after, find_story(after, story).text, -min(looks))
    assert again == find_story(after, story).text


def test_main_frames_are_offered_only_where_there_are_any():
    publication, *_, story = overset()
    kinds = [o.kind for o in offers(Composer().compose(publication), story)]
    assert "flow" not in kinds
    main = TextFrame(id="", x=40, y=60, width=200, height=300, main=1)
    publication, _ = add_item(publication, publication.masters[0].id, main)
    kinds = [o.kind for o in offers(Composer().compose(publication), story)]
    assert "flow" in kinds


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 3), st.integers(0, 3)), min_size=1, max_size=6))
def test_main_frames_linked_on_a_master_are_flowed_through_in_that_order(links):
    """Against a list into which each frame is put behind the one that it was linked to."""
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 1)
    master = publication.masters[0].id
    ids = []
    for n in range(4):
        frame = TextFrame(id="", x=30 + 90 * n, y=40, width=80, height=60)
        publication, item = add_item(publication, master, frame)
        ids.append(item)
    order: list[str] = []
    for a, b in ((ids[a], ids[b]) for a, b in links):
        if a == b:
            with pytest.raises(Refusal, match="linked to itself"):
                link_main(publication, master, a, b)
            continue
        publication = link_main(publication, master, a, b)
        order = [i for i in order if i != b]
        if a not in order:
            order.append(a)
        order.insert(order.index(a) + 1, b)
    text = (Paragraph("body", (Run("some words " * 400),)),)
    publication, story = pour(publication, publication.sections[0].id, text)
    stops = Composer().compose(publication).flow(story).stops
    assert [s.room.item_id for s in stops] == order and problems(publication) == []


def test_a_frame_with_words_of_its_own_is_no_main_frame_by_a_link():
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 1)
    master = publication.masters[0].id
    frame = TextFrame(id="", name="Head", x=30, y=40, width=80, height=60)
    publication, one = add_item(publication, master, frame)
    text = (Paragraph("body", (Run("a running head"),)),)
    words = TextFrame(id="", name="Head", x=130, y=40, width=80, height=60, text=text)
    publication, two = add_item(publication, master, words)
    with pytest.raises(Refusal, match="“Head” holds words of its own"):
        link_main(publication, master, one, two)
    with pytest.raises(Refusal, match="on this master itself"):
        link_main(publication, master, one, "gone")


@given(st.lists(st.none() | st.floats(-40, 40), min_size=1, max_size=6), st.integers(1, 10))
def test_tightened_runs_are_as_close_as_wanted_or_closer(trackings, by):
    """What its author set closer stays; the styles here have no tracking."""
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 1)
    runs = tuple(Run("word ", look=None if t is None else Look(tracking=t)) for t in trackings)
    (paragraph,) = tightened(publication, (Paragraph("body", runs),), by)
    found = [c.look.tracking for c in paragraph.content]
    assert found == [-by if t is None else min(t, -by) for t in trackings]
