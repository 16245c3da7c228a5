"""Makes the fallback fonts from those of Debian's package `fonts-noto-core` (OFL 1.1).

    apt-get download fonts-noto-core && dpkg-deb -x fonts-noto-core_*.deb noto
    .venv/bin/python scripts/make_fallback_fonts.py noto

They are taken whole but for their hinting, which print does not need and which is a third of
their size.  No name in them is reserved, so that a changed copy may keep it.
"""

from __future__ import annotations

import sys
from pathlib import Path

from fontTools import subset
from fontTools.ttLib import TTFont

FONTS = Path(__file__).resolve().parent.parent / "src/hidden_frame/assets/fallback"
NAMES = (
    "NotoSerif-Regular", "NotoSerif-Bold", "NotoSerif-Italic", "NotoSerif-BoldItalic",
    "NotoSerifHebrew-Regular", "NotoSerifHebrew-Bold",
    "NotoNaskhArabic-Regular", "NotoNaskhArabic-Bold",
    "NotoSansSymbols-Regular", "NotoSansSymbols2-Regular", "NotoSansMath-Regular",
)  # fmt: skip


def make(source: Path) -> None:
    """One font without its hinting, all its characters and features kept."""
    options = subset.Options()
    options.hinting = False
    options.layout_features = ["*"]
    options.name_IDs = ["*"]
    options.notdef_outline = True
    options.glyph_names = False
    options.legacy_kern = False
    font = TTFont(source)
    subsetter = subset.Subsetter(options)
    subsetter.populate(unicodes=font.getBestCmap())
    subsetter.subset(font)
    font.save(FONTS / source.name)


if __name__ == "__main__":
    FONTS.mkdir(parents=True, exist_ok=True)
    for name in NAMES:
        make(next(Path(sys.argv[1]).rglob(f"{name}.ttf")))
