"""What one snaps to on the desk."""

from __future__ import annotations

from typing import NamedTuple


class SnapTo(NamedTuple):
    """What one snaps to; chosen once, in one place."""

    page: bool = True
    margins: bool = True
    columns: bool = True
    guides: bool = True
    bleed: bool = True
    grid: bool = False
    items: bool = True
    gaps: bool = True
