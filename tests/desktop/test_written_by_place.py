"""Numbers and moments are shown as the reader's place writes them, and both ways can be typed."""

from __future__ import annotations

from datetime import datetime

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.desk_settings import DeskSettings
from hidden_frame.desktop.fields.fields import DashField, LengthField, NumberField
from hidden_frame.desktop.look.moments import clock, day_in_words, moment
from hidden_frame.desktop.look.settings import settings
from hidden_frame.model.number_format import written_for
from hidden_frame.model.units import mm


@pytest.mark.parametrize("typed", ["12.5", "12,5", "12,5 mm", "1.25cm"])
def test_a_length_is_shown_with_a_comma_and_typed_with_either(hands, qtbot, typed):
    field = LengthField("Across", "mm")
    qtbot.addWidget(field)
    field.show()
    said = []
    field.committed.connect(said.append)
    with written_for("de_DE"):
        field.show_value(mm(127.16))
        assert field.text() == "127,16 mm"
        field.selectAll()
        QTest.keyClicks(field, typed)
        QTest.keyClick(field, Qt.Key.Key_Return)
        field.show_value(said[0])
        assert field.text() == "12,5 mm" and said == [pytest.approx(mm(12.5))]


@pytest.mark.parametrize("sign", ["%", ""])
def test_so_are_numbers_with_and_without_a_sign(qtbot, sign):
    field = NumberField("Share", sign, 0, 100)
    qtbot.addWidget(field)
    with written_for("sv_SE"):
        field.show_value(2.5)
        assert field.text() == f"2,5 {sign}".strip() and field.parse(field.text()) == 2.5
    assert field.parse("2,5") == field.parse("2.5") == 2.5


def test_and_dashes_and_the_reach_of_snapping(hands, qtbot):
    dash = DashField("Dash")
    dialog = DeskSettings(hands.session)
    for widget in (dash, dialog):
        qtbot.addWidget(widget)
    with written_for("fr_FR"):
        dash.show_value((6.0, 2.5))
        assert dash.text() == "6 2,5" and dash.parse(dash.text()) == (6.0, 2.5)
        dialog.reach.setText("9,5 px")
        dialog.box.accepted.emit()
        assert settings().now.reach == 9.5
        again = DeskSettings(hands.session)
        qtbot.addWidget(again)
        assert again.reach.text() == "9,5 px"


@pytest.mark.parametrize(
    "place, said",
    [
        ("C", "26/11/2031, 14:02"),
        ("en_US", "11/26/2031, 2:02\u202fPM"),
        ("de_DE", "26.11.2031, 14:02"),
        ("sv_SE", "2031-11-26, 14:02"),
    ],
)
def test_moments_stand_in_the_order_of_the_place(monkeypatch, place, said):
    """CLDR, by Babel."""
    monkeypatch.setenv("LC_ALL", f"{place}.UTF-8")
    when = datetime(2031, 11, 26, 14, 2)
    assert moment(when.timestamp()) == said
    assert moment(datetime.now().timestamp()) == clock(datetime.now().time())


def test_words_stay_in_the_language_of_the_window(monkeypatch):
    monkeypatch.setenv("LC_ALL", "de_DE.UTF-8")
    assert day_in_words(datetime(2031, 11, 26).date()) == "26 November 2031"
    weekday = day_in_words(datetime(2031, 11, 26).date(), weekday=True)
    assert weekday.replace(",", "") == "Wednesday 26 November 2031"
