"""Several things laid out in order in a grid.

>>> tiled(Bounds(0, 0, 100, 100), [(40, 20)] * 4, gap=10)
[Box(x=0.0, y=0.0, width=40.0, height=20.0, rotation=0.0), ...]
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from hidden_frame.model.plane.box import Bounds, Box


def tiled(area: Bounds, sizes: Sequence[tuple[float, float]], gap: float) -> list[Box]:
    """Boxes of these natural sizes in reading order, each as large as its cell allows.

    A box keeps its proportions, stands at its cell's top left corner and is never larger
    than its natural size.
    """
    if not sizes:
        return []
    columns = math.ceil(math.sqrt(len(sizes) * max(area.width, 1) / max(area.height, 1)))
    columns = max(1, min(columns, len(sizes)))
    rows = math.ceil(len(sizes) / columns)
    cell_w = max((area.width - gap * (columns - 1)) / columns, 1.0)
    cell_h = max((area.height - gap * (rows - 1)) / rows, 1.0)
    boxes = []
    for n, (width, height) in enumerate(sizes):
        row, column = divmod(n, columns)
        scale = min(cell_w / width, cell_h / height, 1.0)
        x = area.left + column * (cell_w + gap)
        y = area.top + row * (cell_h + gap)
        boxes.append(Box(x, y, width * scale, height * scale))
    return boxes


def text_size(text: str, area: Bounds) -> tuple[float, float]:
    """The size of a new frame for a text: the area's width, and about the height it needs."""
    lines = text.count("\n") + 1 + len(text) / 60
    return area.width, min(max(lines * 15.0, 40.0), area.height)


def room_in_middle(seen: Bounds, size: tuple[float, float], most: Bounds) -> Bounds:
    """Room for one thing in the middle of what is seen, no larger than another area."""
    scale = min(1.0, most.width / size[0], most.height / size[1])
    w, h = size[0] * scale, size[1] * scale
    x, y = seen.centre
    return Bounds(x - w / 2, y - h / 2, x + w / 2, y + h / 2)
