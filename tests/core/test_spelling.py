"""Words are found as readers see them, looked up by their language, told with their pages."""

from __future__ import annotations

import json
import re
import unicodedata
from functools import cache

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.about import add_word, remove_word, set_about
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import plain
from hidden_frame.headless import app
from hidden_frame.interact.finds.finding import TextSpot
from hidden_frame.interact.finds.spelling import asked, corrected, doubtful_words, pages_in_words
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import CharacterStyle, ComputedStyle
from hidden_frame.model.text import IndexMark, Look, Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.resources import SPELLING
from hidden_frame.spelling.checked import is_checked, is_code, is_names, spelled_in
from hidden_frame.spelling.child import answer
from hidden_frame.spelling.dictionaries import dictionary_of
from hidden_frame.spelling.judging import judge_of
from hidden_frame.spelling.words import SpelledStretch, asked_words, is_own, words
from hidden_frame.storage.format import save
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.shaping import setting_of
from hidden_frame.typeset.spelled import spelled_places
from hidden_frame.typeset.text import set_text

STYLE = ComputedStyle(id="s", name="Body")


def ask(language, letters):
    judge = judge_of(language)
    return judge.doubtful(letters) if judge is not None else []


def seen(string):
    return [word.letters for word in words(string)]


@given(st.text(max_size=60))
@example("e\u0301a ab\u00adcd’s x@y.z")
def test_words_stand_where_they_say_and_hold_nothing_else(string):
    last = 0
    for start, end, letters in words(string):
        assert last <= start < end
        plain_part = unicodedata.normalize("NFC", string[start:end].replace("\u00ad", ""))
        assert letters == plain_part and len(letters) > 1
        assert not any(c.isspace() or c.isdigit() for c in letters)
        last = end


@given(st.lists(st.from_regex(r"[a-zé]{2,9}(?:['’][a-z]{1,3})?", fullmatch=True), max_size=8),
       st.sampled_from([" ", ", ", " – ", "\u2028", "\t", "-", "! ("]))  # fmt: skip
def test_each_word_of_a_line_is_found_whatever_parts_them(parts, between):
    wanted = [p for p in parts if not re.fullmatch("[ivxlcdm]+", p)]
    found = seen(between.join(parts))
    assert [p for p in found if not re.fullmatch("[ivxlcdm]+", p)] == wanted


def test_what_is_no_word_is_passed():
    assert seen("MMXXXI, xiv, a, 2nd, B2B, 10 kg, x_y") == ["kg"]
    assert seen("write to mail@ridge.example or www.ridge.example/a-b, https://x.example") == [
        "write", "to", "or",
    ]  # fmt: skip
    assert seen("x" * 61) == []


def test_a_word_goes_through_marks_and_looks_but_not_through_languages():
    split = [
        SpelledStretch("obser", "en"),
        SpelledStretch("*", beside=True),
        SpelledStretch("vatory", "en"),
    ]
    assert [(w.start, w.end, w.letters) for w in asked_words(split)] == [(0, 12, "observatory")]
    assert asked_words([SpelledStretch("obser", "en"), SpelledStretch("vatory", "fr")]) == []
    assert asked_words([SpelledStretch("obser", "en"), SpelledStretch(
        "\ufffc"), SpelledStretch("vatory", "en")]) == [
        (0, 5, "en", "obser"), (6, 12, "en", "vatory"),
    ]  # fmt: skip


def test_own_words_are_right_in_the_forms_that_a_sentence_gives_them():
    own = frozenset({"Deneb", "finderscope"})
    for right in (
        "Deneb",
        "DENEB",
        "Deneb’s",
        "Deneb's",
        "Finderscope",
        "FINDERSCOPE",
        "finderscope’s",
    ):
        assert is_own(right, own), right
    assert not is_own("deneb", own) and not is_own("finderscopes", own)


@pytest.mark.parametrize(
    ("name", "passed"),
    [("Star name", True), ("Byline", True), ("Program listing", True), ("Code, small", True),
     ("Body", False), ("Tournament", False)],
)  # fmt: skip
def test_styles_of_names_and_code_are_passed_unless_they_say_otherwise(name, passed):
    assert (is_names(name) or is_code(name)) is passed
    style = replace(STYLE, name=name)
    assert is_checked(style, None, None) is not passed
    assert is_checked(replace(style, spelling="checked"), None, None)
    assert not is_checked(replace(style, spelling="not checked"), None, None)
    named = CharacterStyle(id="c", name=name)
    assert is_checked(STYLE, named, None) is not passed
    assert is_checked(STYLE, named, Look(spelling="checked"))
    assert is_checked(STYLE, replace(named, spelling="checked"), None)


def test_the_language_is_that_of_the_characters_the_style_or_the_publication():
    named = CharacterStyle(id="c", name="Foreign", language="fr")
    assert spelled_in(STYLE, None, None, "en_GB") == "en_GB"
    assert spelled_in(replace(STYLE, language="nl"), None, None, "en_GB") == "nl"
    assert spelled_in(replace(STYLE, language="nl"), named, None, "en_GB") == "fr"
    assert spelled_in(STYLE, named, Look(language="en_US"), "en_GB") == "en_US"


@pytest.mark.parametrize("rules", sorted(SPELLING.glob("*.aff")), ids=lambda p: p.stem)
def test_every_dictionary_that_ships_knows_its_own_words(rules):
    """The word lists themselves are the oracle: whatever a dictionary lists by itself is right."""
    lines = rules.with_suffix(".dic").read_text("utf-8").splitlines()[1::7]
    bare = [line for line in lines if "/" not in line and line.isalpha() and len(line) > 2]
    judge = judge_of(rules.stem)
    assert len(bare) > 20 and judge.doubtful(bare) == []
    assert len(judge.doubtful([f"{word}qxz" for word in bare])) == len(bare)


def test_the_dictionaries_differ_as_the_languages_do():
    assert ask("en_GB", ["colour", "color", "façade", "don’t", "Ἀθῆναι"]) == ["color"]
    assert ask("en_US", ["colour", "color"]) == ["colour"]
    assert ask("fr", ["l’étoile", "aujourd’hui", "étoille"]) == ["étoille"]
    assert judge_of("en_GB").suggestions("obervatory’s")[0] == "observatory’s"
    assert dictionary_of("en_AU") == SPELLING / "en_GB.aff" and dictionary_of("qqq") is None


def test_a_dictionary_of_the_user_comes_first(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    folder = tmp_path / "hidden-frame" / "spelling"
    folder.mkdir(parents=True)
    (folder / "la.aff").write_text("SET UTF-8\n", "utf-8")
    (folder / "la.dic").write_text("2\nstella\nnox\n", "utf-8")
    assert dictionary_of("la") == folder / "la.aff"
    assert ask("la", ["stella", "nocte"]) == ["nocte"]
    judge_of.cache_clear()


def test_a_question_to_the_process_is_answered_by_what_was_asked():
    asked_for = {"language": "en_GB", "words": ["night", "nihgt"]}
    assert answer(asked_for) == {**asked_for, "doubtful": ["nihgt"]}
    found = answer({"language": "en_GB", "word": "nihgt"})
    assert found["word"] == "nihgt" and "night" in found["suggestions"]
    assert answer({"language": "qqq", "words": ["x"]})["doubtful"] == []


@cache
def one_text():
    """Four pages with one frame, among whose items those of another text stand."""
    publication = new_publication("Sky", Setup(trim=TRIMS["A5"]), 4)
    page = all_pages(publication)[1].id
    for said in ("first", "sky chart, skye too"):
        frame = TextFrame(id="", x=20, y=20, width=300, height=300)
        frame = replace(frame, text=(Paragraph("body", (Run(said),)),))
        publication, _ = add_item(publication, page, frame)
    return publication


def with_text(publication, text):
    """The first text frame of the first page that has one, with another text."""
    for section in publication.sections:
        for page in section.pages:
            for item in page.items:
                if isinstance(item, TextFrame):
                    new = replace(item, text=text)
                    items = tuple(new if i is item else i for i in page.items)
                    made = replace(page, items=items)
                    pages = tuple(made if p is page else p for p in section.pages)
                    section_now = replace(section, pages=pages)
                    sections = (section_now if s is section else s for s in publication.sections)
                    return replace(publication, sections=tuple(sections)), page.id, item.id
    raise AssertionError


def test_doubtful_words_are_listed_with_their_folios_and_mended_everywhere(demo):
    composition = Composer().compose(demo[0])
    found = {w.letters: w for w in doubtful_words(demo[0], ask)}
    assert list(found) == ["refractor", "occultations", "defocused"]
    assert pages_in_words(composition, found["refractor"].places) == "2"
    mended = corrected(demo[0], found["refractor"].places, "telescope")
    assert "refractor" not in {w.letters for w in doubtful_words(mended, ask)}
    assert [w.letters for w in doubtful_words(add_word(demo[0], "refractor"), ask)] == [
        "occultations", "defocused",
    ]  # fmt: skip


@given(st.lists(st.sampled_from(["skye ", "skye, ", "sky ", "*"]), min_size=1, max_size=9))
def test_a_word_mended_is_mended_at_every_place_and_nothing_else_changes(parts):
    publication = one_text()
    style = publication.paragraph_styles[0].id
    pieces = tuple(
        IndexMark("Sky") if p == "*" else Run(p, None, Look(bold=n % 2 == 0))
        for n, p in enumerate(parts)
    )
    made, page, item = with_text(publication, (Paragraph(style, pieces),))
    places = [
        place
        for (_, letters), all_of in asked(made).items()
        for place in all_of
        if letters == "skye" and place.spot == TextSpot("", page, item)
    ]
    assert len(places) == sum("skye" in p for p in parts)
    after = corrected(made, places, "sky")
    text = next(i.text for p in all_pages(after) if p.id == page for i in p.items if i.id == item)
    line = plain(text, (0, 0), (0, sum(len(p) for p in parts)))
    assert line.replace("\ufffc", "") == "".join(p for p in parts if p != "*").replace(
        "skye", "sky"
    )
    marks = sum(isinstance(c, IndexMark) for p in text for c in p.content)
    assert marks == parts.count("*")


def test_markers_and_lists_are_not_looked_up(demo):
    style = demo[0].paragraph_styles[0].id
    text = (Paragraph(style, (Run("Folyo "), Marker("folio"), Run(" endd"))),)
    made, page, item = with_text(demo[0], text)
    here = [k for k, places in asked(made).items() if places[0].spot == TextSpot("", page, item)]
    assert here == [("en_GB", "Folyo"), ("en_GB", "endd")]


def test_marks_lie_below_their_words_also_where_a_line_divides_them(demo):
    composition = Composer().compose(demo[0])
    page = all_pages(demo[0])[7]
    texts = [p.drawing.text.text for p in composition.scene(page.id).placed if p.drawing.text]
    lines = [(line, text.specs[line.paragraph]) for text in texts for line in text.lines]
    found = [p for line, spec in lines for p in spelled_places(line, spec, list)]
    assert len({place.word.letters for place in found}) > 100
    places = [p for p in found if p.word.letters == "refractor"]
    assert len(places) == 2 and places[0].baseline < places[1].baseline
    for line, spec in lines:
        for place in spelled_places(line, spec, list):
            assert line.left - 0.01 <= place.left < place.right <= line.right + 0.01
            assert place.baseline == line.baseline
        assert list(spelled_places(line, spec, lambda _: [])) == []


def test_own_words_are_kept_in_order_and_refused_when_empty(demo):
    made = add_word(add_word(add_word(demo[0], "Vega"), "altair"), "Vega")
    assert made.about.words == ("altair", "Vega")
    assert remove_word(made, "Vega").about.words == ("altair",)
    with pytest.raises(Refusal, match="1 to 100"):
        add_word(demo[0], "  ")


def test_the_command_lists_words_with_pages_and_tells_what_has_no_dictionary(
    demo, tmp_path, capsys
):
    path = tmp_path / "a.hframe"
    save(path, *demo)
    app(["spelling", str(path), "--json"], standalone_mode=False)
    rows = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert rows[0] == {"word": "refractor", "language": "en_GB", "times": 1, "pages": "2"}
    save(path, set_about(demo[0], language="mul"), demo[1])
    app(["spelling", str(path)], standalone_mode=False)
    assert "no dictionary for mul" in capsys.readouterr().err


odd = st.sampled_from(
    ["vega", "st’ar", "an", "12", "a.b@c.de", "IV", "x-y", "", "co\u00adop", "日本語", "e\u0301t"]
)


@given(st.lists(odd, max_size=40).map(" ".join), st.integers(40, 200))
def test_a_lines_words_are_those_of_its_paragraph(text, measure):
    """Each line is asked by itself; the oracle is the paragraph as a whole."""
    setting = setting_of(font_book().face("Spectral"), 10.0)
    span = Span(text, setting, (0.0, 0.0, 0.0), language="en_GB", spelled="en_GB")
    paragraph = ParagraphSpec((span,), setting, 14.0, "justified")
    found = set_text((paragraph,), [Region(0.0, float(measure))])
    for alone in (True, False):
        asked_by_line = {
            place.word
            for line in found.lines
            for place in spelled_places(line, paragraph, list, alone=alone)
        }
        assert asked_by_line == set(asked_words([SpelledStretch(text, "en_GB")]))
