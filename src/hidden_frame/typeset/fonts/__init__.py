"""The fonts that text is set in: those that ship with the program, then the machine's.

>>> face = font_book().face("Spectral", bold=True)
>>> face.name
'Spectral Bold'
"""

from hidden_frame.typeset.fonts.book import DEFAULT_FAMILY, FontBook, font_book
from hidden_frame.typeset.fonts.face import FontFace

__all__ = ["DEFAULT_FAMILY", "FontBook", "FontFace", "font_book"]
