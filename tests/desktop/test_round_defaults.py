"""What a new frame has at first is round in the publication's unit, whichever it is."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QLineEdit

from hidden_frame.desktop.dialogs.guides import GuidesDialog
from hidden_frame.desktop.dialogs.repeat import RepeatDialog
from hidden_frame.desktop.views.desk.gestures.draw import new_item
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.plane.box import Box
from hidden_frame.model.units import UNITS, format_length, round_distance, round_gutter, round_step


@pytest.mark.parametrize("unit", UNITS)
def test_defaults_are_round_and_about_a_pica(unit, demo):
    publication = change_setup(demo[0], unit=unit)
    item = new_item(publication, "text", Box(0, 0, 90, 90, 0))
    assert item.gutter == round_gutter(unit)
    for length, about in (
        (round_gutter(unit), 12.0),
        (round_distance(unit), 6.0),
        (round_step(unit), 32.0),
    ):
        digits = format_length(length, unit).split()[0].replace(".", "").strip("0")
        assert len(digits) <= 4 and abs(length - about) <= about / 4


def test_dialogs_begin_with_round_lengths(hands, qtbot):
    """Guides and copies in inches: no length has more than three digits."""
    hands.session.edit("unit", lambda p: change_setup(p, unit="in"))
    page = next(p for p in all_pages(hands.publication) if p.items)
    hands.session.show_page(page.id)
    face = next(f for f in hands.session.faces() if f.holder_id == page.id)
    hands.session.select_items(face, (page.items[0].id,))
    for dialog in (GuidesDialog(hands.session), RepeatDialog(hands.session)):
        qtbot.addWidget(dialog)
        typed = [f.text() for f in dialog.findChildren(QLineEdit) if f.text().endswith(" in")]
        assert typed and all(len(t.split()[0].replace(".", "").strip("0")) <= 3 for t in typed)
        dialog.reject()
