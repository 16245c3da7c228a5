"""Writes the icons of file dialogs and message boxes as an icon theme, light and dark.

Names follow the freedesktop.org Icon Naming Specification 0.8.90 and folders the Icon Theme
Specification 0.13, by which Qt looks them up; the glyphs are those of the Phosphor font that
QtAwesome ships.
"""

from __future__ import annotations

import json
from importlib.util import find_spec
from pathlib import Path

from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.ttLib import TTFont

from hidden_frame.desktop.look.theme import DARK, LIGHT, Theme
from hidden_frame.resources import ICON_THEMES

# The name in the specification, the glyph, and which colour of the theme it takes.
GLYPHS = (
    ("folder", "folder-fill", "master"),
    ("folder-new", "folder-plus", "text"),
    ("text-x-generic", "file", "quiet"),
    ("image-x-generic", "image", "quiet"),
    ("application-pdf", "file-pdf", "quiet"),
    ("user-home", "house", "text"),
    ("user-desktop", "desktop", "text"),
    ("user-trash", "trash", "text"),
    ("computer", "desktop-tower", "text"),
    ("drive-harddisk", "hard-drive", "text"),
    ("go-up", "arrow-up", "text"),
    ("go-previous", "arrow-left", "text"),
    ("go-next", "arrow-right", "text"),
    ("view-list-details", "list-dashes", "text"),
    ("view-list-icons", "squares-four", "text"),
    ("dialog-question", "question", "action"),
    ("dialog-information", "info", "action"),
    ("dialog-warning", "warning", "master"),
    ("dialog-error", "warning-circle", "warning"),
)

INDEX = """[Icon Theme]
Name={name}
Comment=Icons of file dialogs and message boxes
Directories=scalable

[scalable]
Size=32
MinSize=8
MaxSize=512
Type=Scalable
"""


def main() -> None:
    spec = find_spec("qtawesome")
    assert spec is not None and spec.origin is not None
    folder = Path(spec.origin).parent / "fonts"
    font = TTFont(next(folder.glob("phosphor*.ttf")))
    codes = json.loads(next(folder.glob("phosphor*.json")).read_bytes())
    for name, theme in (("light", LIGHT), ("dark", DARK)):
        target = ICON_THEMES / f"hidden-frame-{name}"
        (target / "scalable").mkdir(parents=True, exist_ok=True)
        (target / "index.theme").write_text(INDEX.format(name=f"Hidden Frame, {name}"))
        for icon, glyph, colour in GLYPHS:
            picture = _picture(font, int(codes[glyph], 16), theme, colour)
            (target / "scalable" / f"{icon}.svg").write_text(picture)
    print(f"wrote {2 * len(GLYPHS)} icons")


def _picture(font: TTFont, code: int, theme: Theme, colour: str) -> str:
    """One glyph as an SVG, in the middle of a square that leaves a tenth free around it."""
    glyphs = font.getGlyphSet()
    glyph = glyphs[font.getBestCmap()[code]]
    path, box = SVGPathPen(glyphs, ntos=lambda v: f"{v:.0f}"), BoundsPen(glyphs)
    glyph.draw(path)
    glyph.draw(box)
    left, bottom, right, top = box.bounds
    side = max(right - left, top - bottom) / 0.9
    x, y = (left + right - side) / 2, (bottom + top + side) / 2
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" width="32" height="32" '
        f'viewBox="{x:.0f} {-y:.0f} {side:.0f} {side:.0f}">'
        f'<path transform="scale(1 -1)" fill="{getattr(theme, colour)}" '
        f'd="{path.getCommands()}"/></svg>\n'
    )


if __name__ == "__main__":
    main()
