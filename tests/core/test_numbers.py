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
