"""Where the files are that ship with the program."""

from __future__ import annotations

from pathlib import Path

FONTS = Path(__file__).resolve().parent / "assets" / "fonts"
ICONS = Path(__file__).resolve().parent / "assets" / "icons"
FALLBACK = FONTS.parent / "fallback"
DESKTOP = FONTS.parent / "desktop"
ICON_THEMES = ICONS / "themes"
GUIDE = FONTS.parent / "guide"
UNICODE = FONTS.parent / "unicode"
SPELLING = FONTS.parent / "spelling"
FINDS = FONTS.parent / "find"
