"""Tab stops: which one a tab goes to, and where what stands there begins.

Places are points in the direction of reading: from the left edge of the measure, or from the right
one in a paragraph that is read from there.

>>> stop_behind((Tab(40.0, "left"), Tab(None, "right", ".")), 50.0, 200.0)
TabPlace(position=200.0, align='right', leader='.')
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.typeset.paragraph import Tab

DEFAULT_TAB = 36.0  # points between stops where a style sets none
NEAR = 0.01  # points


class TabPlace(NamedTuple):
    """A stop where it stands at a measure, how a cell stands at it, and what fills the way."""

    position: float
    align: str = "left"
    leader: str = ""

    def begins(self, width: float) -> float:
        """Where a cell of a width begins that stands at the stop."""
        if self.align == "left":
            return self.position
        return self.position - (width if self.align == "right" else width / 2)

    def ends(self, width: float) -> float:
        """Where it ends."""
        return self.begins(width) + width


def stop_behind(tabs: tuple[Tab, ...], x: float, edge: float) -> TabPlace:
    """The next stop behind x; `edge` is where the measure ends, indent left out."""
    for tab in sorted(tabs, key=lambda t: _position(t, edge)):
        if _position(tab, edge) > x + NEAR:
            return TabPlace(_position(tab, edge), tab.align, tab.leader)
    return TabPlace((x // DEFAULT_TAB + 1) * DEFAULT_TAB)


def end_stop(tabs: tuple[Tab, ...], edge: float) -> TabPlace | None:
    """The last stop, if what stands there ends at it, or has it in its middle, and it lies within
    the measure: a row's last cell stands there, however its other cells wrap."""
    last = max(tabs, key=lambda t: _position(t, edge), default=None)
    if last is None or last.align == "left" or _position(last, edge) > edge + NEAR:
        return None
    return TabPlace(_position(last, edge), last.align, last.leader)


def _position(tab: Tab, edge: float) -> float:
    if tab.position is None:
        return edge / 2 if tab.align == "centre" else edge
    return tab.position
