"""Drop-down lists show their entries whole, or end them in “…” and tell the rest."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QHelpEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QToolTip

from hidden_frame.desktop.dialogs import folios, fonts, guides, masters, new, order, pages
from hidden_frame.desktop.dialogs.desk_settings import DeskSettings
from hidden_frame.desktop.dialogs.pairing import PairingDialog
from hidden_frame.desktop.dialogs.styles.character import CharacterDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.desktop.fields.fields import _WIDEST, Choice, TextField

DIALOGS = {
    "apply": lambda h: pages.ApplyDialog(h.session, h.window),
    "export": lambda h: pages.RangeDialog(h.session, h.window),
    "delete master": lambda h: pages.DeleteMasterDialog(
        h.session, h.publication.masters[0].id, h.window
    ),
    "new": lambda h: new.NewDialog(h.window, None),
    "pairing": lambda h: PairingDialog(h.session, h.window),
    "fonts": lambda h: fonts.ReplaceFontDialog(h.session, "", h.window),
    "guides": lambda h: guides.GuidesDialog(h.session, h.window),
    "move": lambda h: order.MoveDialog(h.session, (h.page(9),), h.window),
    "add": lambda h: order.AddDialog(h.session, h.page(9), h.window),
    "fill up": lambda h: order.FillUpDialog(h.session, h.window),
    "delete pages": lambda h: order.DeleteRangeDialog(h.session, h.window),
    "section": lambda h: order.SectionDialog(h.session, h.page(9), h.window),
    "new master": lambda h: masters.NewMasterDialog(h.session, None, h.window),
    "settings": lambda h: DeskSettings(h.session, h.window),
    "folios": lambda h: folios.FoliosDialog(h.session, h.desk, h.window),
    "paragraph": lambda h: StyleDialog(h.session, "body", h.window),
    "character": lambda h: CharacterDialog(h.session, "quiet", h.window),
}


@pytest.mark.parametrize("name", DIALOGS)
def test_no_list_of_a_dialog_cuts_its_entries(hands, qtbot, name):
    dialog = DIALOGS[name](hands)
    qtbot.addWidget(dialog)
    dialog.show()
    hands.app.processEvents()
    lists = [c for c in dialog.findChildren(Choice) if c.isVisible()]
    cut = []
    for choice in lists:
        for number in range(choice.count()):
            need = choice.fontMetrics().horizontalAdvance(choice.itemText(number))
            if min(need, _WIDEST) > choice.room():
                cut.append((choice.accessibleName(), choice.itemText(number), choice.room()))
    assert cut == []


def test_a_list_too_narrow_ends_in_dots_and_its_tooltip_says_the_whole(dressed, qtbot, monkeypatch):
    told = []
    monkeypatch.setattr(QToolTip, "showText", lambda at, text, widget: told.append(text))
    choice = Choice("Places")
    qtbot.addWidget(choice)
    choice.setToolTip("Where it stands")
    choice.show_choice([("a right page (recto) of its own", 1), ("here", 2)], 1)
    choice.resize(choice.minimumSizeHint())
    choice.show()
    assert choice.is_cut()

    def last_column() -> set[str]:
        image = choice.grab().toImage()
        edge = choice.width() - (choice.width() - choice.room()) // 2
        return {image.pixelColor(edge, y).name() for y in range(6, image.height() - 6)}

    assert len(last_column()) == 1  # no letter is cut through where the words must end
    event = QHelpEvent(QEvent.Type.ToolTip, QPoint(5, 5), QPoint(5, 5))
    choice.event(event)
    assert told == ["a right page (recto) of its own\nWhere it stands"]
    choice.resize(choice.sizeHint())
    assert not choice.is_cut()


@pytest.mark.parametrize("name", [n for n in DIALOGS if n not in ("paragraph", "character")])
def test_a_sentence_has_its_room_beforehand_and_stands_once(hands, qtbot, name):
    dialog = DIALOGS[name](hands)
    qtbot.addWidget(dialog)
    dialog.show()
    hands.app.processEvents()
    before = dialog.size()
    fields = [f for f in dialog.findChildren(TextField) if f.isVisible()]
    heights = [f.height() for f in fields]
    sentence = "What stands here makes no sense; give a whole number from 1 to 12 instead, please."
    for field in [None, *fields]:
        dialog.form.say(sentence, field if field in dialog.form._places else None)
        hands.app.processEvents()
        assert dialog.form.problem.isVisible()
        assert dialog.size() == before
        assert [f.height() for f in fields] == heights
        dialog.form.say("")
        hands.app.processEvents()
        assert not dialog.form.problem.isVisible() and dialog.size() == before


def test_a_refusal_stands_under_the_field_that_is_at_fault(hands, qtbot):
    dialog = DIALOGS["add"](hands)
    qtbot.addWidget(dialog)
    dialog.show()
    dialog.count.setText("many")
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    hands.app.processEvents()
    problem = dialog.form.problem
    assert "many" in problem.text()
    under = problem.mapTo(dialog, QPoint()).y() - dialog.count.mapTo(dialog, QPoint()).y()
    assert 0 < under < 2 * dialog.count.height()


def test_a_list_of_which_nothing_is_chosen_says_what_to_do(hands, qtbot):
    dialog = DIALOGS["new"](hands)
    qtbot.addWidget(dialog)
    dialog.show()
    hands.app.processEvents()
    before = dialog.preset.grab().toImage()
    dialog.preset.setPlaceholderText("")
    assert dialog.preset.grab().toImage() != before
