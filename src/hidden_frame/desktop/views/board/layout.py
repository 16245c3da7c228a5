"""Where each master stands on the board, as plain numbers.

A master stands right of its base.  Masters that nothing is built on stand side by side,
as many as the board is wide; one that others build on has a row of its own.
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.model.geometry import Side
from hidden_frame.model.publication import Master, Publication

PAD = 22  # pixels
GAP = 16
STEP = 34  # between a base and what builds on it, with room for the line that joins them
FOOT = 44  # for name and numbers
EDGE = 8  # around the thumbnails


class Card(NamedTuple):
    """A master on the board: its left top corner, its base's card, and what is hidden."""

    master_id: str
    x: float
    y: float
    base: str | None
    folded: int  # how many masters are hidden under it
    foldable: bool


class BoardLayout(NamedTuple):
    """All cards from the top left on, the size of a card, and the size of the whole."""

    cards: tuple[Card, ...]
    faces: tuple[tuple[Side, float], ...]  # each face and its x on the card
    face: tuple[float, float]
    card: tuple[float, float]
    width: float
    height: float

    def at(self, x: float, y: float) -> Card | None:
        """The card under a point."""
        wide, high = self.card
        for card in self.cards:
            if card.x <= x <= card.x + wide and card.y <= y <= card.y + high:
                return card
        return None

    def of(self, master_id: str | None) -> Card | None:
        """A master's card; None if it is folded away."""
        return next((c for c in self.cards if c.master_id == master_id), None)


def board_layout(
    publication: Publication, face_height: float, wide: float, folded: frozenset[str]
) -> BoardLayout:
    """The board for thumbnails of this height on a view of this width (pixels)."""
    setup = publication.setup
    face_width = round(face_height * setup.trim.width / setup.trim.height)
    sides: tuple[Side, ...] = ("verso", "recto") if setup.facing else ("recto",)
    faces = tuple((side, EDGE + n * float(face_width)) for n, side in enumerate(sides))
    card = (max(2 * EDGE + face_width * len(sides), 104.0), EDGE + face_height + FOOT)
    placer = _Placer(publication.masters, card, wide, folded)
    y = float(PAD)
    for master in publication.masters:
        if master.base is None:
            y = placer.place(master, float(PAD), y) + GAP
    width = max((c.x + card[0] for c in placer.cards), default=0.0) + PAD
    return BoardLayout(
        tuple(placer.cards), faces, (float(face_width), face_height), card, width, y - GAP + PAD
    )


class _Placer:
    def __init__(
        self,
        masters: tuple[Master, ...],
        card: tuple[float, float],
        wide: float,
        folded: frozenset[str],
    ) -> None:
        self.card = card
        self.wide = wide
        self.folded = folded
        self.cards: list[Card] = []
        self.children: dict[str | None, list[Master]] = {}
        for master in masters:
            self.children.setdefault(master.base, []).append(master)

    def _below(self, master_id: str) -> int:
        """How many masters build on one, directly or not."""
        return sum(1 + self._below(m.id) for m in self.children.get(master_id, []))

    def place(self, master: Master, x: float, y: float) -> float:
        """Places a master and all that builds on it from (x, y) on; returns the foot."""
        built = self.children.get(master.id, [])
        hidden = self._below(master.id) if master.id in self.folded else 0
        self.cards.append(Card(master.id, x, y, master.base, hidden, bool(built)))
        foot = y + self.card[1]
        if hidden or not built:
            return foot
        right, at = x + self.card[0] + STEP, y
        leaves = [m for m in built if m.id not in self.children]
        per_row = max(int((self.wide - PAD - right + GAP) // (self.card[0] + GAP)), 1)
        for n, leaf in enumerate(leaves):
            row, column = divmod(n, per_row)
            left = right + column * (self.card[0] + GAP)
            at = y + row * (self.card[1] + GAP)
            self.cards.append(Card(leaf.id, left, at, leaf.base, 0, False))
        if leaves:
            foot = max(foot, at + self.card[1])
            at += self.card[1] + GAP
        for branch in (m for m in built if m.id in self.children):
            end = self.place(branch, right, at)
            foot, at = max(foot, end), end + GAP
        return foot
