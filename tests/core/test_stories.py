"""Stories against a naive page-by-page oracle: incremental equals cold, and no word is lost."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item, change_items, remove_items
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import add_pages, delete_pages, move_pages
from hidden_frame.edit.stories import (
    add_story,
    change_story,
    delete_story,
    flow_through,
    is_empty,
    join,
    link,
    part_story,
    pour,
    rename_story,
    set_story_text,
    start_story,
    unlink,
)
from hidden_frame.edit.text.write import plain
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Grid
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import Around, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story, linked_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Setup
from hidden_frame.model.stories import Link, MainFrames
from hidden_frame.model.styles import ParagraphStyle, Rule
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled
from hidden_frame.typeset.fill import Where, fill
from hidden_frame.typeset.paragraph import words_in

WORDS = st.lists(
    st.sampled_from(["sky", "observatory", "a", "Vega", "long-period", "of", "ünder", "1 234"]),
    min_size=0, max_size=70,
).map(" ".join)  # fmt: skip
TEXTS = st.lists(WORDS, min_size=1, max_size=12)


def paragraphs(texts):
    return tuple(Paragraph("body", (Run(t),) if t else ()) for t in texts)


def book(pages=4, height=120.0):
    """Pages on a master with a main frame, and the id of that frame."""
    publication = new_publication("Book", Setup(trim=TRIMS["A6"]), pages)
    body = replace(publication.paragraph_styles[0], least_foot=1, least_head=1)
    publication = put_paragraph_style(publication, body)
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=200, height=height, main=1)
    publication, item = add_item(publication, master, frame)
    return replace(publication, default_masters=(master,)), master, item


def shown(composition, story_id):
    """The words that stand in a story's frames, stop by stop."""
    flow = composition.flow(story_id)
    return [
        " ".join(
            line.text
            for f in part.text.fragments for b in f.blocks for line in b.lines[b.first : b.last]
        ).split()
        for part in flow.parts
    ]  # fmt: skip


def left_over(composition, story_id):
    flow = composition.flow(story_id)
    if flow.rest is None:
        return []
    specs = flow.specs.recto[flow.rest.paragraph :]
    texts = [words_in(spec) for spec in specs]
    texts[:1] = [t[flow.rest.place.offset :] for t in texts[:1]]
    return " ".join(texts).split()


def joined(words):
    """Words with divisions at a line's end undone, whatever the spaces."""
    return "".join(words).replace("-", "")


def naive(composition, story_id):
    """Every stop filled from where the one before ended, without a memory of any kind."""
    flow = composition.flow(story_id)
    where, found = Where(), []
    for number, stop in enumerate(flow.stops):
        lines = []
        for n, region in enumerate(stop.room.regions):
            if where is None:
                continue
            last = stop.closes and n == len(stop.room.regions) - 1
            specs, closing = flow.specs.on(stop.side), stop.side if last else ""
            fragment = fill(specs, region, where, spaced=number + n == 0, closing=closing)
            lines += [x.text for b in fragment.blocks for x in b.lines[b.first : b.last]]
            where = fragment.rest
        found.append(" ".join(lines).split())
    return found


def everything(composition, story_id):
    words = [w for part in shown(composition, story_id) for w in part]
    return joined(words + left_over(composition, story_id))


EDITS = st.lists(
    st.tuples(st.sampled_from(["word", "gone", "new", "height", "page", "less", "move", "shape"]),
              st.integers(0, 11), WORDS, st.floats(20, 200)),
    min_size=1, max_size=6,
)  # fmt: skip


@given(texts=TEXTS, edits=EDITS, columns=st.integers(1, 2))
def test_a_flow_after_edits_is_that_of_a_cold_start_and_loses_no_word(texts, edits, columns):
    publication, master, item = book()
    publication = change_items(publication, master, {item: {"columns": columns}})
    publication, story_id = pour(publication, publication.sections[0].id, paragraphs(texts))
    publication = change_story(publication, story_id, lambda s: replace(s, grows=False))
    composer = Composer()
    composer.compose(publication).flow(story_id)
    for kind, at, words, size in edits:
        text = find_story(publication, story_id).text
        at = at % len(text)
        section = publication.sections[0]
        page = section.pages[at % len(section.pages)]
        if kind == "word":
            new = (*text[:at], *paragraphs([words]), *text[at + 1 :])
            publication = set_story_text(publication, story_id, new)
        elif kind == "gone" and len(text) > 1:
            publication = set_story_text(publication, story_id, (*text[:at], *text[at + 1 :]))
        elif kind == "new":
            new = (*text[:at], *paragraphs([words]), *text[at:])
            publication = set_story_text(publication, story_id, new)
        elif kind == "height":
            publication = change_items(publication, master, {item: {"height": size}})
        elif kind == "page":
            publication, _ = add_pages(publication, section.id, at % 4)
        elif kind == "less" and len(section.pages) > 1:
            publication = delete_pages(publication, [page.id])
        elif kind == "move":
            publication = move_pages(publication, [page.id], section.id, 0)
        elif kind == "shape":
            shape = Shape(id="", x=60, y=60, width=size / 2, height=30, around=Around())
            publication, _ = add_item(publication, page.id, shape)
        warm, cold = composer.compose(publication), Composer().compose(publication)
        assert shown(warm, story_id) == shown(cold, story_id) == naive(cold, story_id)
        assert left_over(warm, story_id) == left_over(cold, story_id)
        whole = plain(find_story(publication, story_id).text)
        assert everything(warm, story_id) == joined(whole.split())


@given(texts=TEXTS, at=st.integers(0, 11))
def test_scenes_show_the_parts_and_stay_where_nothing_moved(texts, at):
    publication, _, _ = book(pages=6, height=60.0)
    publication, story_id = pour(publication, publication.sections[0].id, paragraphs(texts))
    composer = Composer()
    before = composer.compose(publication)
    scenes = before.scenes()
    for scene, words in zip(scenes, shown(before, story_id), strict=True):
        assert " ".join(scene.text_of()).split() == words
    text = find_story(publication, story_id).text
    at = at % len(text)
    new = (*text[:at], replace(text[at], content=(Run("Other words"),)), *text[at + 1 :])
    after = composer.compose(set_story_text(publication, story_id, new))
    old, now = before.flow(story_id), after.flow(story_id)
    for n, (was, scene) in enumerate(zip(scenes, after.scenes(), strict=True)):
        same = old.parts[n] is now.parts[n]
        assert (scene is was) == same
    ends = [s.paragraph + len(p.looked_at) for s, p in zip(old.starts, old.parts, strict=True)]
    assert all(old.parts[n] is now.parts[n] for n, end in enumerate(ends) if end <= at)


@given(texts=TEXTS, height=st.floats(30, 120))
def test_growth_makes_just_the_pages_that_a_count_says(texts, height):
    """R26 against a counting oracle: pages one by one until nothing is left over."""
    publication, _, _ = book(pages=1, height=height)
    publication, story_id = pour(publication, publication.sections[0].id, paragraphs(texts))
    counted, pages = publication, 1
    while Composer().compose(counted).flow(story_id).rest is not None:
        counted, _ = add_pages(counted, counted.sections[0].id, pages)
        pages += 1
    result = settled(publication)
    assert len(all_pages(result)) == pages
    assert Composer().compose(result).flow(story_id).rest is None
    assert problems(result) == [] and settled(result) is result
    assert [p.made for p in all_pages(result)] == [False] + [True] * (pages - 1)
    short = settled(set_story_text(result, story_id, paragraphs(["One"])))
    assert len(all_pages(short)) == 1


def test_pages_with_anything_of_their_own_never_go():
    publication, _, _ = book(pages=1, height=40)
    publication, story_id = pour(publication, publication.sections[0].id, paragraphs(["sky " * 90]))
    publication = settled(publication)
    count = len(all_pages(publication))
    assert count > 4
    publication, _ = add_item(
        publication, all_pages(publication)[2].id, Shape(id="", x=0, y=0, width=9, height=9)
    )
    short = settled(set_story_text(publication, story_id, paragraphs(["One"])))
    assert len(all_pages(short)) == 3


def test_growth_never_runs_away():
    publication, master, item = book(pages=2, height=5)
    publication, _ = pour(publication, publication.sections[0].id, paragraphs(["sky"]))
    assert settled(publication) is publication
    publication = change_items(publication, master, {item: {"height": 100.0, "width": 0.0}})
    assert len(all_pages(settled(publication))) < 10


def linked_book():
    """A story linked by hand through frames on pages 3, 1 and 2, and the stations."""
    publication = new_publication("Book", Setup(trim=TRIMS["A6"]), 4)
    ids = []
    for n in (2, 0, 1):
        page = all_pages(publication)[n].id
        frame = TextFrame(id="", x=40, y=40, width=160, height=60)
        publication, item = add_item(publication, page, frame)
        ids.append(Link(page, item))
    publication, story_id = start_story(publication, ids[0].page, ids[0].item)
    for before, station in pairwise(ids):
        publication = link(publication, story_id, station.page, station.item, before)
    text = paragraphs(["Bright stars " * 20, "of the north " * 30])
    return set_story_text(publication, story_id, text), story_id, ids


def test_frames_linked_by_hand_in_any_order_show_the_story_in_that_order():
    publication, story_id, ids = linked_book()
    composition = Composer().compose(publication)
    assert [s.key for s in composition.flow(story_id).stops] == [(i.page, i.item) for i in ids]
    assert shown(composition, story_id) == naive(composition, story_id)
    assert all(shown(composition, story_id)) and problems(publication) == []


def test_a_page_deleted_takes_no_word_and_a_frame_taken_out_neither():
    """R25."""
    publication, story_id, ids = linked_book()
    words = plain(find_story(publication, story_id).text)
    for changed in (
        delete_pages(publication, [ids[1].page]),
        remove_items(publication, ids[1].page, [ids[1].item]),
        unlink(publication, ids[1]),
    ):
        assert plain(find_story(changed, story_id).text) == words
        composition = Composer().compose(changed)
        assert [s.key[1] for s in composition.flow(story_id).stops] == [ids[0].item, ids[2].item]
        assert everything(composition, story_id) == joined(words.split())
    none = delete_pages(publication, [i.page for i in ids])
    composition = Composer().compose(none)
    assert composition.flow(story_id).words_left == len(words.split())


def test_a_path_never_closes_to_a_ring():
    publication, story_id, ids = linked_book()
    with pytest.raises(Refusal, match="can't come back to itself"):
        link(publication, story_id, ids[0].page, ids[0].item, ids[2])
    with pytest.raises(Refusal, match="itself"):
        join(publication, story_id, story_id)


def test_parting_and_joining_lose_nothing():
    publication, story_id, ids = linked_book()
    words = plain(find_story(publication, story_id).text).split()
    parted, other = part_story(publication, story_id, (0, 7), ids[1])
    assert find_story(parted, story_id).path == (ids[0],)
    assert find_story(parted, other).path == (ids[1], ids[2])
    both = (plain(find_story(parted, s).text) for s in (story_id, other))
    assert " ".join(both).split() == words
    again = join(parted, story_id, other)
    assert " ".join(plain(find_story(again, story_id).text).split()) == " ".join(words)
    assert find_story(again, story_id).path == tuple(ids)
    assert problems(parted) == problems(again) == []


def test_linking_a_frame_with_words_of_its_own_keeps_them():
    publication, story_id, ids = linked_book()
    page = all_pages(publication)[3].id
    own = TextFrame(id="", x=9, y=9, width=90, height=60, text=paragraphs(["own words"]))
    publication, item = add_item(publication, page, own)
    publication = link(publication, story_id, page, item, ids[0])
    story = find_story(publication, story_id)
    assert story.path[1] == Link(page, item) and plain(story.text).endswith("own words")
    assert is_empty(find_page(publication, page).items[0].text)
    assert linked_story(publication, page, item).id == story_id


def test_hand_links_and_main_frames_mix():
    publication, _, item = book(pages=3)
    first = all_pages(publication)[0].id
    publication, own = add_item(
        publication, first, TextFrame(id="", x=40, y=200, width=200, height=40)
    )
    publication, story_id = start_story(publication, first, own)
    publication = flow_through(publication, story_id, publication.sections[0].id)
    publication = set_story_text(publication, story_id, paragraphs(["sky " * 400]))
    stops = [s.key for s in Composer().compose(publication).flow(story_id).stops]
    assert stops == [(first, own), *((p.id, item) for p in all_pages(publication))]
    other, taken = add_story(publication, "Other")
    with pytest.raises(Refusal, match="flows through"):
        flow_through(other, taken, publication.sections[0].id)
    assert problems(publication) == []


def test_names_are_never_shared_and_a_deleted_story_leaves_its_frames():
    publication, story_id, ids = linked_book()
    publication, other = add_story(publication, find_story(publication, story_id).name)
    assert len({s.name for s in publication.stories}) == 2
    with pytest.raises(Refusal, match="not in use"):
        rename_story(publication, other, find_story(publication, story_id).name)
    after = delete_story(publication, story_id)
    assert problems(after) == [] and find_page(after, ids[0].page).items
    two = replace(
        publication,
        stories=tuple(
            replace(s, path=(MainFrames(publication.sections[0].id),)) for s in publication.stories
        ),
    )
    assert "two stories" in problems(two)[0]


@given(texts=TEXTS, at=st.integers(0, 40))
def test_every_place_of_a_story_has_a_stop_or_no_room(texts, at):
    publication, _, _ = book(pages=3, height=50)
    publication, story_id = pour(publication, publication.sections[0].id, paragraphs(texts))
    flow = Composer().compose(publication).flow(story_id)
    text = find_story(publication, story_id).text
    paragraph = at % len(text)
    offset = min(at, len(plain(text[paragraph : paragraph + 1])))
    found = flow.stop_of(paragraph, offset)
    over = flow.rest is not None and (flow.rest.paragraph, flow.rest.place.offset) <= (
        paragraph, offset)  # fmt: skip
    if over:
        assert found is None
        return
    start = flow.starts[found]
    assert (start.paragraph, start.place.offset) <= (paragraph, offset)
    after = flow.starts[found + 1 : found + 2]
    lines = [s for s, p in zip(after, flow.parts[found + 1 :], strict=False) if p.lines]
    assert all((paragraph, offset) < (s.paragraph, s.place.offset) for s in lines)


def test_the_flow_is_done_where_a_page_begins_with_the_same_line_as_before():
    publication, _, _ = book(pages=8, height=70)
    text = paragraphs(["sky " * 30] * 6)
    publication, story_id = pour(publication, publication.sections[0].id, text)
    composer = Composer()
    before = composer.compose(publication).flow(story_id).parts
    same_lines = (*text[:1], *paragraphs(["sea " * 30]), *text[2:])
    after = composer.compose(set_story_text(publication, story_id, same_lines)).flow(story_id).parts
    moved = [n for n, (a, b) in enumerate(zip(before, after, strict=True)) if a is not b]
    assert moved and moved[-1] < len([p for p in before if p.lines]) - 1


STYLED = (
    ParagraphStyle(id="kept", name="Kept", based_on="body", keep_together=True, drop_lines=2),
    ParagraphStyle(
        id="title", name="Title", based_on="body", keep_next=True, rule_below=Rule(),
        number=ListNumber(form="{1}", list="heads"),
    ),
    ParagraphStyle(
        id="under", name="Under", based_on="body", keep_next=True, on_grid=True, indent_left=20,
        indent_first=-20, number=ListNumber(form="{1}.{2}", level=2, list="heads"),
    ),
    ParagraphStyle(id="page", name="On a page", based_on="body", starts="page"),
    ParagraphStyle(id="right", name="On the right", based_on="title", starts="right page"),
    ParagraphStyle(id="even", name="Even", based_on="body", least_foot=3, least_head=2,
                   alignment="justified", hanging_punctuation=True, letter_space=20.0),
)  # fmt: skip
STYLES = st.sampled_from(["body", *(s.id for s in STYLED)])
BLOCKS = st.lists(st.tuples(STYLES, WORDS), min_size=1, max_size=12)


def set_in(blocks):
    return tuple(Paragraph(style, (Run(t),) if t else ()) for style, t in blocks)


@given(
    blocks=BLOCKS, grid=st.booleans(), columns=st.integers(1, 2),
    edits=st.lists(st.tuples(st.sampled_from(["change", "gone", "new", "height"]),
                             st.integers(0, 11), STYLES, WORDS, st.floats(20, 200)),
                   min_size=1, max_size=6),
)  # fmt: skip
def test_whatever_styles_ask_for_edits_come_out_as_a_cold_start(blocks, grid, columns, edits):
    publication, master, item = book(5)
    publication = replace(
        publication,
        paragraph_styles=(*publication.paragraph_styles, *STYLED),
        setup=replace(publication.setup, grid=Grid(30.0, 14.0) if grid else None),
    )
    publication = change_items(publication, master, {item: {"columns": columns}})
    publication, story_id = pour(publication, publication.sections[0].id, set_in(blocks))
    publication = change_story(publication, story_id, lambda s: replace(s, grows=False))
    composer = Composer()
    composer.compose(publication).flow(story_id).rest  # noqa: B018
    for kind, at, style, words, size in edits:
        text = find_story(publication, story_id).text
        at = at % len(text)
        if kind == "height":
            publication = change_items(publication, master, {item: {"height": size}})
        else:
            new = () if kind == "gone" and len(text) > 1 else set_in([(style, words)])
            behind = text[at + (kind != "new") :]
            publication = set_story_text(publication, story_id, (*text[:at], *new, *behind))
        warm, cold = composer.compose(publication), Composer().compose(publication)
        assert shown(warm, story_id) == shown(cold, story_id)
        assert warm.flow(story_id).rest == cold.flow(story_id).rest
        words_of_it = everything(cold, story_id)
        said = joined(plain(find_story(publication, story_id).text).split())
        left = [c for c in words_of_it if not c.isdigit() and c != "."]
        assert "".join(left) == "".join(c for c in said if not c.isdigit() and c != ".")


@given(blocks=BLOCKS)
def test_a_story_that_grows_finds_room_whatever_its_styles_ask_for(blocks):
    publication, _, _ = book(1, 160.0)
    publication = replace(publication, paragraph_styles=(*publication.paragraph_styles, *STYLED))
    publication, story_id = pour(publication, publication.sections[0].id, set_in(blocks))
    publication = settled(publication)
    flow = Composer().compose(publication).flow(story_id)
    assert flow.rest is None
    asked = [n for n, (style, _) in enumerate(blocks) if style == "right"]
    for number in asked:
        at = flow.stop_of(number, 0)
        assert at is not None and flow.stops[at].side == "recto"
    assert len(all_pages(publication)) <= 3 * len(blocks) + 12


def test_a_heading_comes_back_when_what_it_heads_has_room_again():
    """An edit of a paragraph that begins on the page behind moves lines on the page before."""
    publication, _, _ = book(4, 98.0)
    publication = replace(publication, paragraph_styles=(*publication.paragraph_styles, *STYLED))
    long, short = "sky observatory Vega " * 12, "sky"
    blocks = [*[("body", "sky")] * 4, ("title", "a"), ("under", "b"), ("kept", long.strip())]
    publication, story_id = pour(publication, publication.sections[0].id, set_in(blocks))
    composer = Composer()
    first = shown(composer.compose(publication), story_id)
    assert first[0] == ["sky"] * 4 and first[1][:2] == ["1", "a"]
    kept = find_story(publication, story_id).text[:-1]  # the same objects, as after any edit
    publication = set_story_text(publication, story_id, (*kept, *set_in([("body", short)])))
    warm, cold = composer.compose(publication), Composer().compose(publication)
    assert shown(warm, story_id) == shown(cold, story_id)
    assert shown(warm, story_id)[0] != first[0]


def test_who_jumps_far_while_slices_wait_has_paragraphs_set_many_at_a_time(monkeypatch):
    """What is laid out a little at a time beside the desk sets few of them: not so who waits."""
    from benchmarks.natural import story_text
    from benchmarks.stories import long_story

    from hidden_frame.typeset import paragraphs

    publication, story, _, _ = long_story((Paragraph("body"),))
    publication, _ = add_pages(publication, publication.sections[0].id, 1, 130)
    told = replace(publication.stories[0], text=story_text("en", 40_000))  # laid out by nobody yet
    publication = replace(publication, stories=(told,))
    several = []
    broken = paragraphs._broken
    monkeypatch.setattr(
        paragraphs, "_broken", lambda texts, *a: several.append(len(texts)) or broken(texts, *a)
    )
    flow = Composer().compose(publication).flow(story)
    slices = flow.filling(sliced=True)
    next(slices)
    assert max(several, default=0) <= 20
    several.clear()
    flow.part(*flow.stops[-1].key)
    assert max(several) > 100
