"""Styles that are based on others: what they say, what they follow, and what stays as it was."""

from __future__ import annotations

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given
from hypothesis import strategies as st
from msgspec import UNSET
from msgspec.structs import asdict, replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.carry.items import copied, pasted
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.colours import delete_colour, uses
from hidden_frame.edit.looks.styles import (
    delete_character_style,
    delete_paragraph_style,
    new_character_style,
    new_paragraph_style,
    put_character_style,
    put_paragraph_style,
    restated,
    restated_character,
    style_uses,
)
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.fonts import families_used, replace_family
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, character_style, paragraph_style
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import (
    CHARACTER_PROPERTIES,
    PROPERTIES,
    CharacterStyle,
    ComputedStyle,
    ParagraphStyle,
    computed_characters,
    computed_paragraphs,
    computed_style,
)
from hidden_frame.model.text import Paragraph, Run, TabStop
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.valid import check_change
from hidden_frame.storage.format import from_bytes

SMALL = new_publication("S", Setup(trim=TRIMS["A5"]), 2)
said = st.fixed_dictionaries(
    {},
    optional={
        "size": st.sampled_from([8.0, 10.0, 12.0]),
        "leading": st.sampled_from([13.0, 15.0]),
        "bold": st.booleans(),
        "colour": st.sampled_from(["ink", "ochre"]),
        "language": st.sampled_from([None, "de"]),
        "family": st.sampled_from(["Spectral", "Alegreya Sans"]),
        "tabs": st.sampled_from([(), (TabStop(20.0),)]),
    },
)


@st.composite
def families(draw):
    """Styles of which each is based on none or on one before it, shuffled."""
    styles = []
    for number, values in enumerate(draw(st.lists(said, min_size=1, max_size=6))):
        base = draw(st.sampled_from([None, *[s.id for s in styles]]))
        styles.append(ParagraphStyle(id=f"s{number}", name=f"S{number}", based_on=base, **values))
    return tuple(draw(st.permutations(styles)))


def cascaded(styles, style_id, name):
    """An oracle: the value that the style says, or its base, or else the default."""
    style = next(s for s in styles if s.id == style_id)
    value = getattr(style, name)
    if value is not UNSET:
        return value
    if style.based_on is not None:
        return cascaded(styles, style.based_on, name)
    return getattr(ComputedStyle(id="", name="-"), name)


def of(styles):
    return replace(SMALL, paragraph_styles=(*styles, *SMALL.paragraph_styles))


@given(families())
def test_a_style_says_what_it_says_and_follows_the_rest(styles):
    for style_id, computed in computed_paragraphs(styles).items():
        for name in PROPERTIES:
            assert getattr(computed, name) == cascaded(styles, style_id, name)


def test_stored_and_computed_styles_have_the_same_properties():
    # CSS Cascading and Inheritance Level 3, section 4: every property has a computed value.
    assert ParagraphStyle.__struct_fields__[3:] == PROPERTIES
    default = ParagraphStyle(id="a", name="A")
    assert all(getattr(default, name) is UNSET for name in PROPERTIES)


@given(families(), said, st.data())
def test_a_change_runs_through_to_those_that_do_not_say_otherwise(styles, change, data):
    changed = data.draw(st.sampled_from(styles))
    after = tuple(replace(s, **change) if s is changed else s for s in styles)
    before, now = computed_paragraphs(styles), computed_paragraphs(after)
    for style in styles:
        for name in PROPERTIES:
            assert getattr(now[style.id], name) == cascaded(after, style.id, name)
        if style.size is not UNSET and style is not changed:
            assert now[style.id].size == before[style.id].size


@given(families(), said, st.data())
def test_a_style_restated_comes_out_as_wanted_and_says_only_what_differs(styles, wish, data):
    publication = of(styles)
    style = data.draw(st.sampled_from(styles))
    below = {s.id for s in styles if style.id in _bases(styles, s.id)}
    base = data.draw(st.sampled_from([None, *[s.id for s in styles if s.id not in below]]))
    wanted = replace(computed_style(publication.paragraph_styles, style.id), **wish)
    told = restated(publication, wanted, base, frozenset(PROPERTIES))
    after = put_paragraph_style(publication, told)
    assert computed_style(after.paragraph_styles, style.id) == wanted
    root = ComputedStyle(id="", name="-")
    against = computed_style(after.paragraph_styles, base) if base else root
    for name in PROPERTIES:
        equal = getattr(wanted, name) == getattr(against, name)
        assert (getattr(told, name) is UNSET) == equal
    assert problems(after) == []


def _bases(styles, style_id):
    known, found = {s.id: s for s in styles}, []
    while style_id is not None:
        found.append(style_id)
        style_id = known[style_id].based_on
    return found


def test_what_a_style_said_stays_said_until_it_is_let_go():
    body = replace(SMALL.paragraph_styles[0], size=11.0)
    small = ParagraphStyle(id="small", name="Small", based_on="body", size=11.0)
    publication = replace(SMALL, paragraph_styles=(body, small))
    wanted = replace(computed_style(publication.paragraph_styles, "small"), bold=True)
    assert restated(publication, wanted, "body").size == 11.0
    assert restated(publication, wanted, "body", frozenset({"size"})).size is UNSET


@given(families(), st.data())
def test_a_style_deleted_leaves_the_others_as_they_look(styles, data):
    publication = of(styles)
    gone = data.draw(st.sampled_from(styles))
    text = tuple(Paragraph(s.id, (Run("x"),)) for s in styles)
    page = all_pages(publication)[0].id
    publication, _ = add_item(
        publication, page, TextFrame(id="", x=0, y=0, width=90, height=90, text=text)
    )
    assert style_uses(publication, gone.id) == 1
    after = delete_paragraph_style(publication, gone.id, "body")
    before = computed_paragraphs(publication.paragraph_styles)
    left = computed_paragraphs(after.paragraph_styles)
    assert {i: s for i, s in before.items() if i != gone.id} == left
    assert style_uses(after, gone.id) == 0 and style_uses(after, "body") == 1
    assert problems(after) == []
    assert check_change(publication, after) is after


def test_the_last_style_and_a_style_in_its_own_place_are_refused():
    with pytest.raises(Refusal, match="own place"):
        delete_paragraph_style(SMALL, "body", "body")
    with pytest.raises(Refusal, match="no paragraph style “gone”"):
        delete_paragraph_style(SMALL, "body", "gone")


@given(families())
def test_styles_are_saved_and_opened_as_they_are(styles):
    publication = of(styles)
    opened = from_bytes(to_bytes(publication, {}), "a").publication
    assert opened.paragraph_styles == publication.paragraph_styles


def test_a_circle_and_a_missing_base_are_told():
    first = ParagraphStyle(id="a", name="A", based_on="b")
    second = ParagraphStyle(id="b", name="B", based_on="a")
    assert any("A → B" in p and "circle" in p for p in problems(of((first, second))))
    lost = ParagraphStyle(id="a", name="A", based_on="gone")
    assert any("based on “gone”" in p for p in problems(of((lost,))))
    with pytest.raises(Refusal, match="circle"):
        check_change(SMALL, of((first, second)))
    loop = CharacterStyle(id="c", name="C", based_on="c")
    told = problems(replace(SMALL, character_styles=(*SMALL.character_styles, loop)))
    assert any("C" in p and "circle" in p for p in told)


@given(families(), st.data())
def test_carried_text_looks_the_same_and_keeps_its_bases(styles, data):
    publication = of(styles)
    style = data.draw(st.sampled_from(styles))
    frame = TextFrame(
        id="x", x=0, y=0, width=90, height=90, text=(Paragraph(style.id, (Run("x"),)),)
    )
    clip = copied(publication, [frame])
    there = replace(SMALL, paragraph_styles=SMALL.paragraph_styles[1:])
    page = all_pages(there)[0].id
    after, _ = pasted(there, page, clip)
    made = all_pages(after)[0].items[0].text[0].style
    before = computed_style(publication.paragraph_styles, style.id)
    now = computed_style(after.paragraph_styles, made)
    assert {n: getattr(now, n) for n in PROPERTIES} == {n: getattr(before, n) for n in PROPERTIES}
    assert len(_bases(after.paragraph_styles, made)) == len(_bases(styles, style.id))
    again, _ = pasted(after, page, clip)
    assert again.paragraph_styles == after.paragraph_styles  # equal ones are reused


def test_a_colour_that_nothing_names_is_still_in_use_by_default():
    # “Ink” is what a style that says no colour is set in.
    bare = replace(SMALL, paragraph_styles=(ParagraphStyle(id="p", name="P"),))
    assert uses(bare, "ink") == 1
    after = delete_colour(bare, "ink", "ochre")
    assert computed_style(after.paragraph_styles, "p").colour == "ochre"
    assert problems(after) == []


def test_a_family_replaced_leaves_followers_following():
    styles = (
        ParagraphStyle(id="a", name="A"),
        ParagraphStyle(id="b", name="B", based_on="a"),
        ParagraphStyle(id="c", name="C", based_on="a", family="Alegreya Sans"),
    )
    publication = replace(SMALL, paragraph_styles=styles)
    after = replace_family(publication, "Spectral", "Alegreya Sans")
    assert paragraph_style(after, "b").family is UNSET
    assert set(families_used(after)) == {"Alegreya Sans"}


def test_new_styles_say_the_same_or_nothing():
    copy, copied_id = new_paragraph_style(SMALL, "heading")
    assert asdict(paragraph_style(copy, copied_id)) | {"id": "", "name": ""} == asdict(
        paragraph_style(SMALL, "heading")
    ) | {"id": "", "name": ""}
    based, based_id = new_paragraph_style(SMALL, "heading", based=True)
    style = paragraph_style(based, based_id)
    assert style.based_on == "heading" and style.name == "Heading 2"
    assert all(getattr(style, name) is UNSET for name in PROPERTIES)


looks = st.fixed_dictionaries(
    {},
    optional={
        "size": st.sampled_from([8.0, 12.0]),
        "bold": st.booleans(),
        "colour": st.sampled_from(["ink", "ochre"]),
    },
)


@given(looks, looks, looks)
def test_character_styles_follow_their_base_then_the_paragraph(first, second, third):
    styles = (
        CharacterStyle(id="c", name="C", based_on="b", **third),
        CharacterStyle(id="a", name="A", **first),
        CharacterStyle(id="b", name="B", based_on="a", **second),
    )
    computed = computed_characters(styles)["c"]
    expected = first | second | third
    assert {n: getattr(computed, n) for n in CHARACTER_PROPERTIES} == (
        dict.fromkeys(CHARACTER_PROPERTIES) | expected
    )
    publication = replace(SMALL, character_styles=styles)
    after = delete_character_style(publication, "b", None)
    assert computed_characters(after.character_styles)["c"] == computed
    assert character_style(after, "c").based_on == "a"
    rebased = restated_character(publication, computed, "a")
    assert all(
        getattr(rebased, n) is None or n not in first or getattr(rebased, n) != first[n]
        for n in expected
    )


def test_runs_of_a_deleted_character_style_take_another_or_none():
    text = (Paragraph("body", (Run("x", "strong"), Run("y", "emphasis"))),)
    publication, _ = add_item(
        SMALL,
        all_pages(SMALL)[0].id,
        TextFrame(id="", x=0, y=0, width=90, height=90, text=text),
    )
    plain = delete_character_style(publication, "strong", None)
    assert all_pages(plain)[0].items[0].text[0].content[0].style is None
    other = delete_character_style(publication, "strong", "emphasis")
    assert all_pages(other)[0].items[0].text[0].content[0].style == "emphasis"
    with pytest.raises(Refusal):
        delete_character_style(publication, "strong", "strong")
    bare, made = new_character_style(publication, None)
    assert character_style(bare, made).name == "Character style"
    assert character_style(new_character_style(bare, "strong", True)[0], made) is not None


def test_what_a_base_changes_is_seen_on_the_page():
    publication, made = new_paragraph_style(SMALL, "body", based=True)
    page = all_pages(publication)[0].id
    text = (Paragraph(made, (Run("x", "key"),)),)
    publication = put_character_style(
        publication, CharacterStyle(id="key", name="Key", based_on="strong", italic=True)
    )
    publication, _ = add_item(
        publication, page, TextFrame(id="", x=0, y=0, width=90, height=90, text=text)
    )
    composer = Composer()
    after = put_paragraph_style(publication, replace(paragraph_style(publication, "body"), size=20))
    (placed,) = composer.compose(after).scene(page).placed
    setting = placed.drawing.text.text.lines[0].runs[0].setting
    assert setting.size == 20 and setting.face.style == "Bold Italic"
    strong = replace(character_style(after, "strong"), bold=False)
    (placed,) = composer.compose(put_character_style(after, strong)).scene(page).placed
    assert placed.drawing.text.text.lines[0].runs[0].setting.face.style == "Italic"
