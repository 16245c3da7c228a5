"""Manuscripts: texts that authors write elsewhere, read into one neutral form and written from it.

`read(path)` takes plain text, Markdown, HTML, .docx (ISO/IEC 29500) and .odt (ISO/IEC 26300).
"""

from hidden_frame.storage.manuscripts.read import KINDS, read
from hidden_frame.storage.manuscripts.write import written

__all__ = ["KINDS", "read", "written"]
