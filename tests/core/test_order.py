"""The order of pages: sides against an oracle, page operations against a plain list."""

from __future__ import annotations

import io

import pypdf
import pypdfium2 as pdfium
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.pairing import sheet_pairs, spreads

from hidden_frame.checks.findings import findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import page_facts
from hidden_frame.edit.carry.pages import pages_copied, pages_pasted, publication_of
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import add_master, apply_masters, set_opens
from hidden_frame.edit.masters.overrides import override
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.blind import blind_empty_pages, blind_first_pages, show_all_folios
from hidden_frame.edit.pages.folios import FolioPlan, place_folios
from hidden_frame.edit.pages.held import hold_pages
from hidden_frame.edit.pages.order import (
    add_pages,
    add_spread,
    delete_pages,
    duplicate_pages,
    fill_up,
    move_beside,
    move_pages,
    place_of,
)
from hidden_frame.edit.pages.sections import (
    change_numbering,
    delete_section,
    duplicate_section,
    end_section,
    join_with_previous,
    move_section,
    number_from,
    start_section,
)
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.edit.pages.ties import tie, tied_pairs, untie
from hidden_frame.interact.finds.plan import count_in_words, matching, numbering_in_words
from hidden_frame.interact.words.foretold import foretell, gap_in_words, kept_together
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, section_of
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.sides import missing, side_of, spread_of
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import pdf_bytes

A5 = TRIMS["A5"]
directions = st.sampled_from(["left to right", "right to left"])


def pages_of(publication):
    return [p.id for p in all_pages(publication)]


def plain(count=12, sections=(4, 4, 4)):
    publication = new_publication("P", Setup(trim=A5), count)
    at = 0
    for n, size in enumerate(sections[:-1]):
        at += size
        publication, _ = start_section(publication, pages_of(publication)[at], f"S{n + 2}")
    return publication


# -- sides and spreads --------------------------------------------------------------------


@given(st.integers(1, 200), st.sampled_from(["recto", "verso"]), directions)
def test_pairing_and_sides_against_a_naive_oracle(count, opening, direction):
    """R1: pages are dealt onto a table one by one, left and right as one reads."""
    setup = Setup(trim=A5, opening=opening, direction=direction)
    first, second = ("verso", "recto") if direction == "left to right" else ("recto", "verso")
    dealt, pages = [], list(range(1, count + 1))
    if opening == "recto":  # the first lies alone, where the second of a pair lies
        dealt.append([(pages.pop(0), second)])
    while pages:
        pair = [(pages.pop(0), first)]
        if pages:
            pair.append((pages.pop(0), second))
        dealt.append(pair)
    assert spreads(count, setup) == [tuple(p for p, _ in pair) for pair in dealt]
    for number, pair in enumerate(dealt, 1):
        for position, side in pair:
            assert side_of(position, setup) == side
            assert spread_of(position, setup) == number


@given(st.integers(1, 50))
def test_sheets_of_a_saddle_stitched_booklet(sheets):
    """Common practice of the trade: the outer sheet carries last and first; the two pages of
    each side of a sheet sum to the number of pages and one; every page is printed once."""
    count = 4 * sheets
    pairs = sheet_pairs(count)
    assert pairs[0][0] == (count, 1)
    flat = [p for sheet in pairs for side in sheet for p in side]
    assert sorted(flat) == list(range(1, count + 1))
    assert all(sum(side) == count + 1 for sheet in pairs for side in sheet)
    assert missing(count, Setup(trim=A5)) == 0


@given(st.integers(1, 300), st.sampled_from([1, 2, 4, 8, 16, 32]))
def test_missing_pages_to_a_multiple(count, sheet):
    lacking = missing(count, Setup(trim=A5, sheet=sheet))
    assert 0 <= lacking < sheet and (count + lacking) % sheet == 0


# -- page operations against a plain list -----------------------------------------------

steps = st.lists(
    st.tuples(
        st.sampled_from(["add", "delete", "move", "duplicate", "start", "end", "join",
                         "move section", "delete section", "duplicate section"]),
        st.integers(0, 10**6), st.integers(0, 10**6), st.integers(1, 4),
    ),
    max_size=14,
)  # fmt: skip


@settings(max_examples=80)
@given(steps)
def test_every_page_operation_against_a_plain_list(steps):
    """The oracle is a list of lists of page ids, a list a section, and list arithmetic."""
    publication = plain(9, (3, 3, 3))
    oracle = [[p.id for p in s.pages] for s in publication.sections]
    for what, a, b, count in steps:
        flat = [p for section in oracle for p in section]
        page = flat[a % len(flat)]
        home = next(n for n, s in enumerate(oracle) if page in s)
        at = oracle[home].index(page)
        names = [s.id for s in publication.sections]
        some = [flat[(a + n * (b % 5 + 1)) % len(flat)] for n in range(count)]
        some = [p for p in flat if p in some]
        if what == "add":
            publication, made = add_pages(publication, names[home], at, count)
            oracle[home][at:at] = made
        elif what == "duplicate":
            publication, made = duplicate_pages(publication, some)
            home = next(n for n, s in enumerate(oracle) if some[-1] in s)
            at = oracle[home].index(some[-1]) + 1
            oracle[home][at:at] = made
        elif what == "delete":
            if len(some) == len(flat):
                with pytest.raises(Refusal, match="at least one page"):
                    delete_pages(publication, some)
                continue
            publication = delete_pages(publication, some)
            oracle = [[p for p in s if p not in some] for s in oracle]
        elif what == "move":
            target = b % len(oracle)
            at = b % (len(oracle[target]) + 1)
            publication = move_pages(publication, some, names[target], at)
            marked = [list(s) for s in oracle]
            marked[target].insert(at, "here")
            marked = [[p for p in s if p not in some] for s in marked]
            here = marked[target].index("here")
            marked[target][here : here + 1] = some
            oracle = marked
        elif what == "start":
            publication, _ = start_section(publication, page, "New")
            if at:
                oracle[home : home + 1] = [oracle[home][:at], oracle[home][at:]]
        elif what == "end":
            if at == len(oracle[home]) - 1:
                with pytest.raises(Refusal, match="ends with this page"):
                    end_section(publication, page)
                continue
            publication, _ = end_section(publication, page)
            oracle[home : home + 1] = [oracle[home][: at + 1], oracle[home][at + 1 :]]
        elif what == "join":
            if not home:
                with pytest.raises(Refusal, match="none before it"):
                    join_with_previous(publication, names[home])
                continue
            publication = join_with_previous(publication, names[home])
            oracle[home - 1 : home + 1] = [oracle[home - 1] + oracle[home]]
        elif what == "move section":
            before = b % (len(oracle) + 1)
            publication = move_section(
                publication, names[home], names[before] if before < len(oracle) else None
            )
            marked = [*oracle, None]
            target = marked[before]
            if target is not oracle[home]:
                moved = oracle[home]
                rest = [s for s in oracle if s is not moved]
                rest.insert(len(rest) if target is None else
                            next(n for n, s in enumerate(rest) if s is target), moved)  # fmt: skip
                oracle = rest
        elif what == "delete section":
            if len(oracle) == 1:
                with pytest.raises(Refusal, match="at least one section"):
                    delete_section(publication, names[home], pages=bool(b % 2))
                continue
            publication = delete_section(publication, names[home], pages=bool(b % 2))
            gone = oracle.pop(home)
            if not b % 2:
                neighbour = oracle[home - 1] if home else oracle[0]
                neighbour[:] = neighbour + gone if home else gone + neighbour
        else:
            publication, _ = duplicate_section(publication, names[home])
            copy = [p.id for p in publication.sections[home + 1].pages]
            assert len(copy) == len(oracle[home]) and not set(copy) & set(flat)
            oracle.insert(home + 1, copy)
        oracle = [s for s in oracle if s]
        assert [[p.id for p in s.pages] for s in publication.sections] == oracle
        assert problems(publication) == []


def test_moving_a_set_onto_itself_changes_nothing():
    publication = plain()
    page = pages_of(publication)[5]
    assert move_pages(publication, [page], *place_of(publication, page)) is publication
    assert move_section(publication, publication.sections[1].id, publication.sections[1].id) is (
        publication
    )


def test_pages_are_not_moved_before_one_of_themselves():
    publication = plain()
    ids = pages_of(publication)
    with pytest.raises(Refusal, match="before one of themselves"):
        move_beside(publication, ids[2:5], ids[3])
    moved = move_beside(publication, [ids[9], ids[1]], ids[5], after=True)
    assert pages_of(moved)[4:8] == [ids[5], ids[1], ids[9], ids[6]]


# -- held pages -----------------------------------------------------------------------------


@settings(max_examples=80)
@given(steps, st.integers(0, 11), st.integers(0, 11))
def test_a_held_page_keeps_its_position_or_the_change_is_refused(steps, first, second):
    publication = plain()
    kept = {pages_of(publication)[first], pages_of(publication)[second]}
    publication = hold_pages(publication, kept, True)
    wanted = {p.id: p.held for p in all_pages(publication) if p.held}
    for what, a, b, count in steps:
        ids = pages_of(publication)
        page, other = ids[a % len(ids)], ids[b % len(ids)]
        home = section_of(publication, page).id
        try:
            if what == "add":
                publication, _ = add_pages(publication, home, b % 4, count)
            elif what == "duplicate":
                publication, _ = duplicate_pages(publication, [page])
            elif what == "delete" and page not in kept:
                publication = delete_pages(publication, [page])
            elif what == "move":
                publication = move_pages(publication, [page], *place_of(publication, other))
            elif what == "move section":
                publication = move_section(publication, home, section_of(publication, other).id)
        except Refusal as refusal:
            assert "locked at position" in str(refusal)
        at = {i: n for n, i in enumerate(pages_of(publication), 1)}
        assert {i: at[i] for i in wanted} == wanted
        assert problems(publication) == []


def test_others_flow_around_a_held_page():
    publication = plain(8, (8,))
    ids = pages_of(publication)
    publication = hold_pages(publication, [ids[4]], True)
    publication, made = add_pages(publication, publication.sections[0].id, 0, 2)
    assert pages_of(publication) == [*made, ids[0], ids[1], ids[4], ids[2], ids[3], *ids[5:]]
    free = hold_pages(publication, [ids[4]], False)
    assert all(p.held is None for p in all_pages(free))
    with pytest.raises(Refusal, match="stays there"):
        move_pages(publication, [ids[4]], publication.sections[0].id, 0)
    with pytest.raises(Refusal, match="no more than"):
        delete_pages(publication, [*made, *ids[:4], *ids[5:7]])


def test_a_held_page_does_not_leave_its_section():
    publication = plain()
    ids = pages_of(publication)
    publication = hold_pages(publication, [ids[4]], True)  # the first of the second section
    with pytest.raises(Refusal, match=r"position 5 belongs to S2, which would not reach"):
        add_pages(publication, publication.sections[0].id, 0, 2)


# -- tied spreads ---------------------------------------------------------------------------


def test_a_parted_spread_is_foretold_with_the_page_that_keeps_it_together():
    publication = plain(12, (12,))
    ids = pages_of(publication)
    section = publication.sections[0].id
    publication = tie(publication, ids[3], ids[4])  # 4 and 5 face each other
    told = foretell(publication, lambda p: add_pages(p, section, 0, 1)[0])
    assert told.parted == ((ids[3], ids[4]),)
    assert told.words == "pages 1–12 change sides; the spread 4–5 is separated"
    together = kept_together(publication, told)
    facts = page_facts(together)
    assert facts[ids[3]].spread == facts[ids[4]].spread and len(facts) == 14
    assert foretell(publication, lambda p: add_pages(p, section, 0, 2)[0]).parted == ()
    assert [f.kind for f in findings(told.result)][:1] == ["parted spread"]
    assert tied_pairs(untie(publication, [ids[4]])) == []
    with pytest.raises(Refusal, match="kept with itself"):
        tie(publication, ids[0], ids[0])


def test_a_refused_change_says_why_and_changes_nothing():
    publication = plain()
    told = foretell(publication, lambda p: delete_pages(p, pages_of(p)))
    assert told.result is publication and "at least one page" in told.refused
    same = foretell(publication, lambda p: p)
    assert same.words == "nothing changes"
    assert gap_in_words(publication, publication.sections[1].id, 0) == "before 5 (#5), in S2"
    assert gap_in_words(publication, publication.sections[1].id, 4) == "at the end of S2"


def test_copies_of_a_tied_spread_are_tied_to_each_other():
    publication, made = add_spread(plain(), plain().sections[0].id, 2)
    assert [p.id for p in tied_pairs(publication)[0]] == made
    publication, copies = duplicate_pages(publication, made)
    assert [[p.id for p in pair] for pair in tied_pairs(publication)] == [made, copies]


# -- numbering ------------------------------------------------------------------------------


def test_this_page_is_page_1():
    publication = plain(12, (12,))
    ids = pages_of(publication)
    publication, section = number_from(publication, ids[5])
    facts = page_facts(publication)
    assert [facts[i].folio for i in ids[4:8]] == ["5", "1", "2", "3"]
    again, same = number_from(publication, ids[5], 7)
    assert same == section and page_facts(again)[ids[5]].folio == "7"
    silent = change_numbering(publication, publication.sections[0].id, Numbering(style="none"))
    numbered, _ = number_from(silent, ids[0])
    assert page_facts(numbered)[ids[0]].folio == "1"


def test_numbering_in_words_with_the_first_three_and_the_last():
    publication = plain()
    assert numbering_in_words(publication, 0) == "4 pages · 1, 2, 3, 4"
    long = plain(12, (12,))
    assert numbering_in_words(long, 0) == "12 pages · 1, 2, 3 … 12"
    silent = change_numbering(long, long.sections[0].id, Numbering(style="none", counted=True))
    assert numbering_in_words(silent, 0) == "12 pages · no folios, counted"
    assert count_in_words(long) == "12 pages = 3 × 4"
    assert count_in_words(plain(10, (10,))) == "10 pages, 2 missing to a multiple of 4"
    assert count_in_words(change_setup(plain(10, (10,)), sheet=1)) == "10 pages"


def test_blind_on_first_pages_on_empty_ones_and_all_shown_again():
    publication = plain()
    first = blind_first_pages(publication)
    assert [p.blind for p in all_pages(first)] == [n % 4 == 0 for n in range(12)]
    page = pages_of(publication)[2]
    text = TextFrame(id="", x=0, y=0, width=9, height=9, text=(Paragraph("body", (Run("Owl"),)),))
    filled, _ = add_item(publication, page, text)
    assert sum(p.blind for p in all_pages(blind_empty_pages(filled))) == 11
    assert show_all_folios(first) == publication
    assert show_all_folios(publication) is publication
    assert matching(filled, "owl") == [page] and matching(filled, "s2") == pages_of(filled)[4:8]
    assert matching(filled, "3-5") == pages_of(filled)[2:5] and matching(filled, "zzz") == []


def test_filling_up_goes_before_a_back_cover():
    publication = plain(10, (9, 1))
    ids = pages_of(publication)
    filled, made = fill_up(publication, 2, None)
    assert pages_of(filled) == [*ids[:9], *made, ids[9]]
    assert section_of(filled, made[0]).id == publication.sections[0].id
    single = plain(10, (10,))
    filled, made = fill_up(single, 2, ())
    assert pages_of(filled)[9:11] == made


# -- checks -----------------------------------------------------------------------------------


def kinds(publication):
    return [f.kind for f in findings(publication)]


def fixed(publication, kind):
    finding = next(f for f in findings(publication) if f.kind == kind)
    return finding, finding.fix(publication)


def test_equal_folios_are_told_once_for_two_sections_and_mended():
    bare = plain()
    second = bare.sections[1].id
    # Without an item that prints them, no two pages print the same folio.
    assert "equal folios" not in kinds(change_numbering(bare, second, Numbering(start=1)))
    publication = place_folios(bare, [m.id for m in bare.masters], FolioPlan())
    doubled = change_numbering(publication, second, Numbering(start=1))
    finding, mended = fixed(doubled, "equal folios")
    assert finding.sentence == (
        "S2 counts from 1 again: 4 folios are printed twice, 1 to 4, the first on #1 and #5."
    )
    assert len(finding.pages) == 8 and "equal folios" not in kinds(mended)
    carry_on, prefix = finding.ways
    assert "carry on" in carry_on.offer and "-1" in prefix.offer
    other = prefix.fix(doubled)
    assert "equal folios" not in kinds(other)
    assert page_facts(other)[other.sections[1].pages[0].id].folio.endswith("-1")
    assert kinds(publication) == []


def test_rectos_with_even_folios_where_the_rest_are_odd():
    publication = plain(12, (4, 8))
    turned = change_numbering(publication, publication.sections[0].id, Numbering(start=2))
    turned = change_numbering(turned, turned.sections[1].id, Numbering(start=31))
    finding, _ = fixed(turned, "even rectos")
    assert "right pages have even folios, as on 2 (#1)" in finding.sentence


def test_a_section_that_counts_again_is_one_finding_whatever_follows_from_it():
    publication = plain(24, (5, 6, 6, 7))
    publication = place_folios(publication, [m.id for m in publication.masters], FolioPlan())
    assert kinds(publication) == []
    again = change_numbering(publication, publication.sections[2].id, Numbering(start=1))
    (finding,) = findings(again)  # the section after it carries on: its folios are twice too
    assert finding.kind == "equal folios" and finding.sentence.startswith("S3 counts from 1 again")
    assert "from there on right pages have even folios" in finding.sentence  # it begins on #12
    assert kinds(finding.fix(again)) == []


@given(st.lists(st.tuples(st.integers(1, 5), st.sampled_from([None, None, 1, 2, 40, 51])),
                min_size=1, max_size=6))  # fmt: skip
def test_the_section_where_right_and_left_change_places_is_named(sections):
    """Against every page looked at by itself: odd folios are for right pages."""
    sizes = [size for size, _ in sections]
    publication = plain(sum(sizes), sizes)
    for section, (_, start) in zip(publication.sections, sections, strict=True):
        publication = change_numbering(publication, section.id, Numbering(start=start))
    facts = page_facts(publication)
    wrong = [f.page_id for f in facts.values() if f.number % 2 != (f.side == "recto")]
    order = [p.id for p in all_pages(publication)]
    begins = [p for p in wrong if order.index(p) == 0 or order[order.index(p) - 1] not in wrong]
    found = [f for f in findings(publication) if f.kind == "even rectos"]
    assert [f.pages[0] for f in found] == begins
    assert [page for f in found for page in f.pages] == wrong
    for finding in found:
        assert page_facts(publication)[finding.page_id].page_id in finding.pages
        if finding.ways:
            section = facts[finding.pages[0]].section_id
            assert next(s for s in publication.sections if s.id == section).name in finding.sentence


def test_a_section_on_the_other_side_than_its_master_opens_on():
    publication = plain(12, (3, 9))
    publication, master = add_master(publication, "Opener")
    publication = set_opens(publication, master, "recto")
    first = publication.sections[1].pages[0].id
    publication = apply_masters(publication, [first], (master,))
    finding, mended = fixed(publication, "opening side")
    assert (
        finding.sentence
    ) == "S2 starts on a verso, 4 (#4), and its master “Opener” is for a recto."
    assert "opening side" not in kinds(mended) and len(all_pages(mended)) == 13


def test_roman_numbers_beyond_3999_and_empty_sections():
    publication = plain()
    far = Numbering(style="lower roman", start=3998)
    beyond = change_numbering(publication, publication.sections[2].id, far)
    finding, mended = fixed(beyond, "out of range")
    assert "counts to 4000 in lower roman, which reaches only 3999" in finding.sentence
    assert "out of range" not in kinds(mended)
    empty = replace(publication.sections[1], id="section-0", name="Gone", pages=())
    hollow = replace(publication, sections=(*publication.sections, empty))
    finding, mended = fixed(hollow, "empty section")
    assert finding.sentence == "The section “Gone” has no pages." and mended == publication


def test_missing_pages_and_sleeping_overrides_are_among_the_checks(demo):
    finding, mended = fixed(plain(10, (10,)), "sheets")
    assert finding.sentence == "10 pages: 2 pages are missing to a multiple of 4."
    assert len(all_pages(mended)) == 12
    assert "sleeping override" in kinds(demo[0])


# -- pages carried ----------------------------------------------------------------------------


def test_pages_are_carried_to_another_publication_with_all_they_follow(demo):
    source, _ = demo
    ids = pages_of(source)
    target = new_publication("Other", source.setup, 4)
    parcel = pages_copied(source, [ids[6], ids[7]])
    pasted, made = pages_pasted(target, parcel, target.sections[0].id, 2)
    assert problems(pasted) == [] and pages_of(pasted)[2:4] == made
    composed, there = Composer().compose(source), Composer().compose(pasted)
    for old, new in zip((ids[6], ids[7]), made, strict=True):
        a, b = composed.scene(old), there.scene(new)
        mirrored = a.side != b.side
        assert [p.drawing.width for p in a.placed] == [p.drawing.width for p in b.placed]
        if not mirrored:
            assert [p.matrix for p in a.placed] == [p.matrix for p in b.placed]
    again, _ = pages_pasted(pasted, parcel, pasted.sections[0].id, 0)
    assert again.masters == pasted.masters and again.colours == pasted.colours


def test_a_new_publication_of_some_pages_keeps_their_sections(demo):
    source, _ = demo
    ids = pages_of(source)
    part = publication_of(source, ids[6:11], "Spring alone")
    assert problems(part) == [] and [s.name for s in part.sections] == ["Spring"]
    assert {m.name for m in part.masters} >= {"Season opener", "Almanac base", "Month table"}
    with pytest.raises(Refusal, match="No page is selected"):
        publication_of(source, [], "Nothing")
    with pytest.raises(Refusal, match="No page is selected"):
        pages_copied(source, [])


def test_overrides_go_along_with_their_masters(demo):
    source, _ = demo
    base = next(m for m in source.masters if m.name == "Almanac base")
    page = pages_of(source)[8]
    source = override(source, page, base.items[0].id, opacity=0.5)
    target = new_publication("Other", source.setup, 4)
    pasted, (made,) = pages_pasted(target, pages_copied(source, [page]), target.sections[0].id, 0)
    found = next(p for p in all_pages(pasted) if p.id == made)
    (kept,) = found.overrides
    assert kept.opacity == 0.5
    assert kept.item in {i.id for m in pasted.masters for i in m.items}


# -- what the PDF says ---------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changes", "layout", "direction"),
    [
        # ISO 32000-1, table 28: TwoPageRight puts odd-numbered pages on the right, TwoPageLeft
        # on the left; table 150: /Direction is L2R by default, or R2L.
        ({}, "/TwoPageRight", None),
        ({"opening": "verso"}, "/TwoPageLeft", None),
        ({"facing": False}, "/SinglePage", None),
        ({"direction": "right to left"}, "/TwoPageLeft", "/R2L"),
        ({"direction": "right to left", "opening": "verso"}, "/TwoPageRight", "/R2L"),
    ],
)
def test_page_layout_and_direction_in_the_pdf(small, changes, layout, direction):
    publication = change_setup(small, **changes)
    data = pdf_bytes(Composer().compose(publication), {})
    root = pypdf.PdfReader(io.BytesIO(data)).root_object
    assert root["/PageLayout"] == layout
    assert root.get("/ViewerPreferences", {}).get("/Direction") == direction
    assert len(pdfium.PdfDocument(data)) == 8


@given(
    st.integers(4, 14),
    st.lists(st.tuples(st.integers(0, 13), st.integers(0, 13)), max_size=4),
    st.lists(st.integers(0, 13), max_size=2),
    st.booleans(),
)
def test_ties_are_told_parted_exactly_where_they_are(count, pairs, loosed, single):
    """Against a plain dictionary of partners, and spreads counted by hand (a recto first)."""
    publication = new_publication("T", Setup(trim=TRIMS["A5"], facing=not single), count)
    ids = [p.id for p in all_pages(publication)]
    partner: dict[str, str] = {}

    def free(page):
        other = partner.pop(page, None)
        if other is not None:
            partner.pop(other, None)

    for a, b in pairs:
        one, two = ids[a % count], ids[b % count]
        if one != two:
            publication = tie(publication, one, two)
            free(one)
            free(two)
            partner[one], partner[two] = two, one
    for n in loosed:
        publication = untie(publication, [ids[n % count]])
        free(ids[n % count])
    assert {frozenset((a.id, b.id)) for a, b in tied_pairs(publication)} == {
        frozenset(pair) for pair in partner.items()
    }
    assert {p.id for p in all_pages(publication) if p.tie is not None} == set(partner)
    spread = {page: n if single else (n + 1) // 2 for n, page in enumerate(ids)}
    parted = {frozenset((a, b)) for a, b in partner.items() if spread[a] != spread[b]}
    told = {frozenset(f.pages) for f in findings(publication) if f.kind == "parted spread"}
    assert told == parted
