"""Markers as chips in a line of text: whatever pieces go in come out again."""

from __future__ import annotations

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import QMimeData, Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.look.chips import ChipField
from hidden_frame.model.text import Look, Marker, Run

texts = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cc", "Cs", "Zl", "Zp"],
                  exclude_characters="\ufffc↵") | st.sampled_from(["\t", "\u2028"]),
    min_size=1, max_size=12,
)  # fmt: skip
dresses = st.tuples(
    st.sampled_from([None, "strong"]), st.sampled_from([None, Look(bold=True), Look(size=9.0)])
)
pieces = st.one_of(
    st.builds(lambda t, d: Run(t, *d), texts, dresses),
    st.builds(lambda k, d: Marker(k, None, *d), st.sampled_from(["folio", "page count"]), dresses),
    st.just(Marker("detail", "Issue")),
)


def joined(content):
    """Neighbouring runs that look alike as one."""
    found = []
    for piece in content:
        last = found[-1] if found else None
        same = isinstance(last, Run) and isinstance(piece, Run)
        if same and (last.style, last.look) == (piece.style, piece.look):
            found[-1] = Run(last.text + piece.text, last.style, last.look)
        else:
            found.append(piece)
    return tuple(found)


@pytest.fixture
def field(dressed, qtbot):
    made = ChipField("Says")
    qtbot.addWidget(made)
    made.resize(300, made.sizeHint().height())
    made.show()
    return made


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(st.lists(pieces, max_size=6))
def test_what_goes_in_comes_out(field, content):
    field.show_content(tuple(content))
    assert field.content() == joined(content)


def test_a_chip_is_one_character_and_words_beside_it_stay_words(field):
    field.show_content((Run("Page "), Marker("folio", style="strong")))
    QTest.keyClick(field, Qt.Key.Key_End)
    QTest.keyClicks(field, " of")
    assert field.content() == (Run("Page "), Marker("folio", style="strong"), Run(" of"))
    for _ in range(3):
        QTest.keyClick(field, Qt.Key.Key_Backspace)
    QTest.keyClick(field, Qt.Key.Key_Backspace)
    assert field.content() == (Run("Page "),)
    field.undo()
    assert Marker("folio", style="strong") in field.content()


def test_what_is_pasted_is_words_on_one_line(field):
    data = QMimeData()
    data.setText("two\nlines \ufffc")
    field.insertFromMimeData(data)
    assert field.content() == (Run("two lines "),)
    field.show_content((Run("a"), Marker("page count"), Run("b")))
    field.selectAll()
    assert field.createMimeDataFromSelection().text() == "a[Page count]b"


def test_a_chip_is_seen(field):
    field.show_content((Run("x"),))
    before = field.grab().toImage()
    field.show_content((Run("x"), Marker("folio")))
    after = field.grab().toImage()
    changed = [
        x for x in range(after.width())
        if any(after.pixel(x, y) != before.pixel(x, y) for y in range(4, after.height() - 4))
    ]  # fmt: skip
    assert max(changed) - min(changed) > 30  # a name in a box, not a mark
