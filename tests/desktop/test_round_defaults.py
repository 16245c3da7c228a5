"""What a new frame has at first is round in the publication's unit, whichever it is."""

from __future__ import annotations

import pytest

from hidden_frame.desktop.desk.gestures.draw import new_item
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.model.plane.box import Box
from hidden_frame.model.units import UNITS, format_length, round_distance, round_gutter


@pytest.mark.parametrize("unit", UNITS)
def test_defaults_are_round_and_about_a_pica(unit, demo):
    publication = change_setup(demo[0], unit=unit)
    item = new_item(publication, "text", Box(0, 0, 90, 90, 0))
    assert item.gutter == round_gutter(unit)
    for length, about in ((round_gutter(unit), 12.0), (round_distance(unit), 6.0)):
        digits = format_length(length, unit).split()[0].replace(".", "").strip("0")
        assert len(digits) <= 4 and abs(length - about) <= about / 4
