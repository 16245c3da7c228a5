"""Masters by rule, against R27 taken literally: page by page, each laid out anew."""

from __future__ import annotations

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.checks.rules import rule_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import delete_paragraph_style, put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, apply_masters, delete_master
from hidden_frame.edit.masters.rules import add_rule, change_rule, move_rule, remove_rule
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour, set_grows, set_story_text
from hidden_frame.interact.words.rules_told import no_room
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_master, find_page, find_story, stack_of
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.settle.rules import ruled
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes
from hidden_frame.typeset.segments import TextOffset

WORDS = st.integers(0, 150).map(lambda n: "night " * n)


def book(pages=8, starts="anywhere"):
    """Two sections of pages on a text master; masters with less room, more room, and none."""
    publication = new_publication("Rules", Setup(trim=Size(300, 260)), pages)
    body = replace(publication.paragraph_styles[0], least_foot=1, least_head=1)
    publication = put_paragraph_style(publication, body)
    for name in ("title", "part"):
        publication = put_paragraph_style(
            publication, ParagraphStyle(id=name, name=name.title(), size=14, leading=20,
                                        starts=starts),
        )  # fmt: skip
    made = {}
    for name, height in (("Text", 150), ("Opener", 60), ("Wide", 190), ("Blank", 0)):
        publication, made[name] = add_master(publication, name)
        if height:
            frame = TextFrame(id="", x=40, y=40, width=200, height=height, main=1)
            publication, _ = add_item(publication, made[name], frame)
    return replace(publication, default_masters=(made["Text"],)), made


def par(style, text):
    return Paragraph(style, (Run(text),) if text else ())


rows = st.lists(
    st.tuples(st.sampled_from(["body", "body", "body", "title", "part"]), WORDS),
    min_size=1, max_size=14,
)  # fmt: skip
rules = st.lists(
    st.tuples(
        st.sampled_from(["style", "style", "first", "last", "odd", "even", "no text"]),
        st.sampled_from(["title", "part"]), st.sampled_from(["Opener", "Wide", "Blank", "Text"]),
        st.sampled_from(["page", "section", "rule"]),
    ), min_size=1, max_size=4,
)  # fmt: skip


def told(publication, rows):
    text = tuple(par(style, f"T{n}" if style != "body" else w) for n, (style, w) in enumerate(rows))
    publication, story = pour(publication, publication.sections[0].id, text, "Story")
    return set_grows(publication, story, False), story


def ruled_by(publication, made, rules):
    for when, style, master, until in rules:
        publication, _ = add_rule(publication, when=when, style=style, masters=(made[master],),
                                  until=until)  # fmt: skip
    return publication


def begun_on(publication, story, page):
    """The styles that begin on a page, and whether any line stands there; cold."""
    flow = Composer().compose(publication).flow(story)
    text = find_story(publication, story).text
    styles, lines = set(), 0
    for stop, part, start in zip(flow.stops, flow.parts, flow.starts, strict=True):
        if stop.page_id == page:
            lines += part.lines
            for fragment in part.text.fragments:
                for block in fragment.blocks:
                    if block.first == 0 and block.set.place(0) == TextOffset():
                        styles.add(text[start.paragraph + block.paragraph].style)
    return styles, lines


def has_frame(publication, rule):
    return all(any(i.main for i in find_master(publication, m).items) for m in rule.masters)


def literally(publication, story):
    """R27: each page laid out with what it follows anyway, and once more by its rule."""
    rules, running, found = publication.rules, None, {}
    publication = replace(publication, rules=())
    section = publication.sections[0]
    for number, page in enumerate(section.pages):

        def so(rule, number=number):
            last = number == len(section.pages) - 1
            odd = number % 2 == 0
            return {"first": number == 0, "last": last, "odd": odd, "even": not odd}.get(
                rule.when, False
            )

        base = running
        tried = apply_masters(publication, [page.id], base.masters if base else None)
        styles, lines = begun_on(tried, story, page.id)

        def stands(rule, page=page, before=publication):
            """Whether any of the text stands there in the rule's masters."""
            return begun_on(apply_masters(before, [page.id], rule.masters), story, page.id)[1]

        chosen = next(
            (r for r in rules if (r is running and has_frame(publication, r)) or so(r)
             or (r.when == "style" and r.style in styles and stands(r))
             or (r.when == "no text" and not lines)),
            None,
        )  # fmt: skip
        if chosen is not None and so(chosen):
            tried = apply_masters(publication, [page.id], chosen.masters)
            styles, _ = begun_on(tried, story, page.id)
        event = next((r for r in rules if r.when == "style" and r.style in styles), None)
        if event is not None and event.until != "page":
            running = event
        elif event is not None and running is not None and running.until == "rule":
            running = None
        found[page.id] = chosen.masters if chosen else publication.default_masters
        publication = apply_masters(publication, [page.id], chosen.masters if chosen else None)
    return found


@settings(max_examples=60)
@given(rows, rules)
def test_every_page_follows_what_the_rule_says_taken_literally(rows, rules):
    publication, made = book()
    publication, story = told(publication, rows)
    publication = ruled_by(publication, made, rules)
    done = ruled(publication)
    expected = literally(publication, story)
    assert {p.id: stack_of(done, p) for p in all_pages(done)} == expected
    assert ruled(done) is done  # settled equals settled again


@settings(max_examples=25)
@given(rows, rules, st.data())
def test_after_edits_it_is_as_if_it_were_ruled_cold(rows, rules, data):
    publication, made = book()
    publication, story = told(publication, rows)
    composer = Composer()
    publication = ruled(ruled_by(publication, made, rules), composer)
    for _ in range(3):
        text = find_story(publication, story).text
        at = data.draw(st.integers(0, len(text) - 1))
        style = data.draw(st.sampled_from(["body", "title", "part"]))
        new = (*text[:at], par(style, data.draw(WORDS)), *text[at:])
        publication = ruled(set_story_text(publication, story, new), composer)
        bare = replace(publication, sections=tuple(
            replace(s, pages=tuple(replace(p, ruled=None, rule="") for p in s.pages))
            for s in publication.sections
        ))  # fmt: skip
        assert ruled(bare) == publication


def on_pages(publication):
    names = {m.id: m.name for m in publication.masters}
    return [" ".join(names[m] for m in stack_of(publication, p)) for p in all_pages(publication)]


def test_chapters_start_on_a_right_page_with_a_blank_one_before_that_comes_and_goes():
    publication, made = book(pages=2, starts="right page")
    rows = [("title", ""), ("body", "night"), ("title", ""), ("body", "night")]
    publication, story = told(publication, rows)
    publication = set_grows(publication, story, True)
    publication = ruled_by(publication, made, [
        ("style", "title", "Opener", "page"), ("no text", "title", "Blank", "page"),
    ])  # fmt: skip
    done = settled(publication)
    assert on_pages(done) == ["Opener", "Blank", "Opener"]
    text = find_story(done, story).text
    longer = settled(
        set_story_text(done, story, (*text[:2], par("body", "night " * 60), *text[2:]))
    )
    assert on_pages(longer) == ["Opener", "Text", "Opener"]
    assert on_pages(settled(set_story_text(longer, story, text))) == ["Opener", "Blank", "Opener"]


@pytest.mark.parametrize("until", ["page", "section", "rule"])
def test_a_rule_whose_master_takes_no_text_runs_away_with_nothing(until):
    publication, made = book(pages=2)
    rows = [("title", "")] + [("body", "night sky " * 40), ("title", "")] * 8
    publication, story = told(publication, rows)
    publication = settled(set_grows(publication, story, True))
    pages = len(all_pages(publication))
    bad = settled(ruled_by(publication, made, [("style", "title", "Blank", until)]))
    assert len(all_pages(bad)) == pages and set(on_pages(bad)) == {"Text"}
    assert "Blank has no main frame" in no_room(bad, bad.rules[0])


def test_pages_go_and_come_with_the_text_where_blank_ones_follow_a_rule():
    publication, made = book(pages=2, starts="right page")
    rows = [("title", ""), ("body", "night sky " * 90)] * 12
    publication, story = told(publication, rows)
    publication = ruled_by(set_grows(publication, story, True), made, [
        ("style", "title", "Opener", "page"), ("no text", "", "Blank", "page"),
    ])  # fmt: skip
    composer = Composer()
    whole = settled(publication, composer)
    text = find_story(whole, story).text
    half = settled(set_story_text(whole, story, text[: len(text) // 3]), composer)
    assert len(all_pages(half)) < len(all_pages(whole)) / 2
    again = settled(set_story_text(half, story, text), composer)
    assert on_pages(again) == on_pages(whole)


def test_until_the_section_ends_and_until_another_rule():
    publication, made = book(pages=6, starts="page")
    rows = [("body", "a"), ("title", ""), ("body", "night " * 230)]
    publication, _ = told(publication, rows)
    for until, expected in (
        ("page", ["Text", "Wide", "Text"]), ("section", ["Text", "Wide", "Wide"]),
        ("rule", ["Text", "Wide", "Wide"]),
    ):  # fmt: skip
        done = ruled(ruled_by(publication, made, [("style", "title", "Wide", until)]))
        assert on_pages(done)[:3] == expected
    cut, _ = start_section(publication, all_pages(publication)[4].id, "Two", Numbering())
    done = ruled(ruled_by(cut, made, [("style", "title", "Wide", "section")]))
    assert on_pages(done) == ["Text", "Wide", "Wide", "Wide", "Text", "Text"]


def test_pages_set_by_hand_are_left_alone_and_go_back_to_automatic():
    publication, made = book(pages=3, starts="page")
    publication, _ = told(publication, [("title", ""), ("title", ""), ("title", "")])
    second = all_pages(publication)[1].id
    publication = apply_masters(publication, [second], (made["Wide"],))
    done = ruled(ruled_by(publication, made, [("style", "title", "Opener", "page")]))
    assert on_pages(done) == ["Opener", "Wide", "Opener"]
    back = ruled(apply_masters(done, [second], None))
    assert on_pages(back) == ["Opener", "Opener", "Opener"]
    added = apply_masters(back, [second], (made["Blank"],), "add")
    assert stack_of(added, find_page(added, second)) == (made["Opener"], made["Blank"])


def test_the_first_rule_of_the_list_counts_and_rules_change():
    publication, made = book(pages=2, starts="page")
    publication, _ = told(publication, [("title", ""), ("title", "")])
    publication = ruled_by(publication, made, [
        ("style", "title", "Opener", "page"), ("first", "title", "Wide", "page"),
    ])  # fmt: skip
    one, two = publication.rules
    assert on_pages(ruled(publication)) == ["Opener", "Opener"]
    assert on_pages(ruled(move_rule(publication, two.id, -1))) == ["Wide", "Opener"]
    assert on_pages(ruled(change_rule(publication, one.id, style="part"))) == ["Wide", "Text"]
    done = ruled(remove_rule(remove_rule(publication, one.id), two.id))
    assert on_pages(done) == ["Text", "Text"]
    assert all(p.ruled is None and not p.rule for p in all_pages(done))


def test_rules_outlive_their_style_and_master_and_are_saved():
    publication, made = book(pages=2, starts="page")
    publication, _ = told(publication, [("title", ""), ("body", "")])
    done = ruled(ruled_by(publication, made, [("style", "title", "Opener", "page")]))
    assert from_bytes(to_bytes(done, {}), "a").publication == done
    other = check(ruled(delete_paragraph_style(done, "title", "part")))
    assert other.rules[0].style == "part" and on_pages(other)[0] == "Opener"
    gone = check(ruled(delete_master(done, made["Opener"])))
    assert made["Opener"] not in {m for p in all_pages(gone) for m in stack_of(gone, p)}


@pytest.mark.parametrize("sections", [(), ("other",)])
def test_a_rule_is_for_its_sections(sections):
    publication, made = book(pages=2)
    publication, _ = told(publication, [("title", "")])
    publication, _ = add_rule(publication, style="title", masters=(made["Wide"],),
                              sections=sections)  # fmt: skip
    assert on_pages(ruled(publication))[0] == ("Text" if sections else "Wide")


def test_a_rule_that_moves_its_own_cause_is_told_and_one_that_catches_nothing():
    publication, made = book(pages=4)
    rows = [("body", "night " * 50), ("title", ""), ("body", "night " * 60)]
    publication, _ = told(publication, rows)
    publication = ruled(ruled_by(publication, made, [
        ("style", "title", "Opener", "page"), ("style", "part", "Wide", "page"),
    ]))  # fmt: skip
    assert on_pages(publication)[:2] == ["Opener", "Opener"]
    found = list(rule_findings(Composer().compose(publication)))
    assert [f.kind for f in found] == ["idle rule", "moved cause", "moved cause"]
    assert found[1].page_id == all_pages(publication)[0].id and "Title" in found[1].sentence
