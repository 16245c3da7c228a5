"""Numbers before paragraphs, against an oracle that counts by hand."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.compose.numbers import numbered
from hidden_frame.model.numbering import ListNumber

levels = st.lists(st.integers(0, 4), max_size=30)


@given(levels)
def test_levels_count_as_a_table_of_contents_does(wanted):
    """{1}.{2}.{3}.{4}: as the nested lists of HTML count (CSS Lists 3, nested counters)."""
    forms = {n: ".".join(f"{{{k}}}" for k in range(1, n + 1)) for n in range(1, 5)}
    numbers = [ListNumber(form=forms[n], level=n) if n else None for n in wanted]
    counts, expected = [0] * 5, []
    for level in wanted:
        if not level:
            expected.append("")
            continue
        counts[level] += 1
        counts[level + 1 :] = [0] * (4 - level)
        expected.append(".".join(str(c) if c else "" for c in counts[1 : level + 1]))
    found = numbered(numbers)
    # A level above that has no number yet has none to show; afterwards it keeps its last one.
    for mine, theirs in zip(found, expected, strict=True):
        if "" not in theirs.split(".") or not theirs:
            assert mine == theirs


def test_numerals_start_and_lists_of_their_own():
    notes = ListNumber(form="({1})", numerals="lower letters", list="notes", start=3)
    steps = ListNumber(form="Step {1}:", list="steps")
    assert numbered([notes, steps, notes, None, steps]) == ["(c)", "Step 1:", "(d)", "", "Step 2:"]
    on = ListNumber(form="{2}", level=2, restarts=False)
    top = ListNumber()
    assert numbered([top, on, top, on]) == ["1.", "1", "2.", "2"]
    assert numbered([ListNumber(form="•")] * 2) == ["•", "•"]
    assert numbered([ListNumber(numerals="upper roman", start=5000)]) == ["5000."]


def test_numbers_go_on_from_story_to_story_where_their_style_says_so():
    from msgspec.structs import replace

    from hidden_frame.compose.composer import Composer
    from hidden_frame.edit.looks.styles import put_paragraph_style
    from hidden_frame.edit.new import new_publication
    from hidden_frame.edit.stories import add_story, set_story_text
    from hidden_frame.model.geometry import Size
    from hidden_frame.model.publication import Setup
    from hidden_frame.model.styles import ParagraphStyle
    from hidden_frame.model.text import Paragraph, Run

    publication = new_publication("Across", Setup(trim=Size(300, 300)), 1)
    plate = ParagraphStyle(id="plate", name="Plate", number=ListNumber(
        form="Plate {1}", list="plates", across=True))  # fmt: skip
    own = ParagraphStyle(id="own", name="Own", number=ListNumber(form="{1}.", list="own"))
    for style in (plate, own):
        publication = put_paragraph_style(publication, style)
    rows = (Paragraph("plate", (Run("a"),)), Paragraph("own", (Run("b"),)))
    publication, first = add_story(publication, "One", (*rows, *rows), ())
    publication, second = add_story(publication, "Two", rows, ())
    composer = Composer()
    composition = composer.compose(publication)
    assert composition.labels(first) == ("Plate 1", "1.", "Plate 2", "2.")
    assert composition.labels(second) == ("Plate 3", "1.")
    fewer = set_story_text(publication, first, rows)
    assert composer.compose(fewer).labels(second) == ("Plate 2", "1.")
    alone = replace(plate, number=replace(plate.number, across=False))
    assert composer.compose(put_paragraph_style(publication, alone)).labels(second)[0] == "Plate 1"
