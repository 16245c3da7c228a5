"""What the lines of a paragraph are to fit, and how they stand."""

from __future__ import annotations

from hidden_frame.typeset.breaking.demerits import Fit
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.shaping import exact

ZONE = 0.08  # of the measure: how far from the edge a ragged line ends and is still good


def rise_of(spec: ParagraphSpec) -> float:
    """From the top of a paragraph's lines to their baseline, in points."""
    face, size = spec.base.face, spec.base.size
    # Half of what the leading adds stands above a line (CSS Inline 3, 4.1).
    return (spec.leading - (face.ascent + face.descent) * size) / 2 + face.ascent * size


def fit_of(spec: ParagraphSpec, measure: float) -> Fit:
    """What the lines of a paragraph are to fit, of which all but the first are alike."""
    width = exact(measure - spec.right - spec.left)
    space, spacing = spec.base.space, spec.spacing
    justified = spec.align == "justified"
    short = max(abs(spec.first), 2 * spec.base.size) if justified else 0.0
    return Fit(
        width,
        exact(space * (1 - spacing.least)) if justified else 0.0,
        exact(max(space * (spacing.most - 1), 1 / 64)),
        justified,
        max(width * ZONE, 1.0),
        exact(min(short, width / 3)),
        spacing.hyphens,
        exact(min(abs(spec.first), width / 3)),
    )
