"""Where the lines of a set paragraph end, told from the lines."""

from __future__ import annotations

from collections.abc import Sequence

from hidden_frame.typeset.breaking.nodes import Break, Ends
from hidden_frame.typeset.line import TextLine


def ends_of(lines: Sequence[TextLine]) -> Ends | None:
    """Where these lines end, from which `LineSetter.row` makes the very same ones; None where it
    would not, as for tabs and initials."""
    cells = [line.cell for line in lines]
    segment = cells[0].segment if cells[0] is not None else None
    if segment is None or not segment.words:
        return None
    if any(cell is None or cell.segment is not segment for cell in cells):
        return None
    cuts = [cell.cut for cell in cells if cell is not None]
    if cuts[0].first or cuts[0].skip:
        return None
    tokens = [cut.last + (cut.used > 0) for cut in cuts]
    follows = [*(cut.first for cut in cuts[1:]), len(segment.words)]
    breaks = [Break(t, c.used, f) for t, c, f in zip(tokens, cuts, follows, strict=True)]
    ends = Ends(tokens, [cut.used for cut in cuts], glued=True)
    return ends if ends.breaks() == breaks else None
