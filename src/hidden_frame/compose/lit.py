"""Words that take another colour on dark ground, and pictures that give way to another there,
decided for each frame on each page (R21a).

Of the two ways in which a frame's words may be drawn, the one whose least contrast with what is
printed beneath them is the greater (WCAG 2.2, “contrast ratio”) is shown.
"""

from __future__ import annotations

from hidden_frame.compose.ground import PAPER, Ground, Rgb, contrast, ground_of, over, rgb, tone
from hidden_frame.compose.scene import Drawing, PicturePrimitive, Placed, Scene
from hidden_frame.model.memory import remembered

_ACROSS = 8  # cells of a picture that are looked at, in each direction
_SEEN = 0.3  # the opacity from which on a cell is seen
BLACK: Rgb = (0.0, 0.0, 0.0)
_LINES = 60  # of a frame, that are looked at
_HALF = 0.25  # the share of places that are read better the other way from which it is told


@remembered()
def lit(scene: Scene) -> Scene:
    """The scene with every frame's words in the colour that is read better where they stand."""
    if all(placed.dark is None for placed in scene.painted):
        return scene
    return scene.exchanged({
        id(placed): _decided(scene, n)
        for n, placed in enumerate(scene.painted) if placed.dark is not None
    })  # fmt: skip


def _decided(scene: Scene, index: int) -> Placed:
    """A frame as it is drawn on its ground."""
    placed = scene.painted[index]
    block = placed.drawing.text
    if placed.dark is None:
        return placed
    ground = ground_of(scene, index)
    if block is None:
        return _drawn(placed, _reads_better(placed, placed.dark, ground), False)
    least, better = [21.0, 21.0], [0, 0]
    both = zip(_places(placed.drawing), _places(placed.dark), strict=False)
    for (x, y, one), (_, _, other) in both:
        under = ground.colour(placed.matrix.apply(x, y))
        if under is not None:
            ratios = [contrast(over(c, block.alpha, under), under) for c in (one, other)]
            least = [min(a, b) for a, b in zip(least, ratios, strict=True)]
            better[ratios[1] > ratios[0]] += 1
    dark = least[1] > least[0]
    return _drawn(placed, dark, better[not dark] >= _HALF * max(sum(better), 1))


def _reads_better(placed: Placed, dark: Drawing, ground: Ground) -> bool:
    """Whether the picture for dark ground stands out better from what lies beneath, on the mean of
    the cells that can be seen of each.  Where no cells are known, of a picture placed by an older
    version, it counts as black, and the one for dark ground as white."""
    ratios = []
    for drawing, unknown in ((placed.drawing, BLACK), (dark, PAPER)):
        found = []
        for x, y, colour, alpha in _cells(drawing, unknown):
            under = ground.colour(placed.matrix.apply(x, y))
            if under is not None:
                found.append(contrast(over(colour, alpha, under), under))
        ratios.append(sum(found) / len(found) if found else 1.0)
    return ratios[1] > ratios[0]


@remembered()
def _cells(drawing: Drawing, unknown: Rgb) -> tuple[tuple[float, float, Rgb, float], ...]:
    """Places in a frame where its picture is seen, with its colour and opacity there."""
    found = []
    for primitive in drawing.primitives:
        if not isinstance(primitive, PicturePrimitive):
            continue
        left, top, wide, high = primitive.rect
        for n in range(_ACROSS * _ACROSS):
            across, down = ((v + 0.5) / _ACROSS for v in (n % _ACROSS, n // _ACROSS))
            x, y = left + across * wide, top + down * high
            red, green, blue, alpha = tone(primitive, across, down) or (*unknown, 1.0)
            if alpha > _SEEN and 0 <= x <= drawing.width and 0 <= y <= drawing.height:
                found.append((x, y, (red, green, blue), alpha * primitive.alpha))
    return tuple(found)


@remembered(by_value=("dark", "mixed"))
def _drawn(placed: Placed, dark: bool, mixed: bool) -> Placed:
    """A frame drawn in one way or the other; the same object for the same, so that what did not
    change is not painted again."""
    drawing = placed.dark if dark and placed.dark is not None else placed.drawing
    return placed._replace(drawing=drawing, dark=None, mixed=mixed)


@remembered()
def _places(drawing: Drawing) -> tuple[tuple[float, float, Rgb], ...]:
    """Both ends and the middle of each run of words, in the item's points, and their colour."""
    block = drawing.text
    if block is None:
        return ()
    found = []
    for line in block.text.lines[: min(block.shown, _LINES)]:
        for run in line.runs:
            if not run.words:
                continue
            ends = [x + word.width for x, word in zip(run.xs, run.words, strict=True)]
            left, right = line.x + min(run.xs), line.x + max(ends)
            y = line.baseline - run.setting.size / 3 + block.y
            colour = rgb(run.span.ink)
            found += [(x + block.x, y, colour) for x in (left, (left + right) / 2, right)]
    return tuple(found)
