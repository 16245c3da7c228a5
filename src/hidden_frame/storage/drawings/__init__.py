"""SVG drawings: guarded, then made into a one-page PDF that screen and print both use.

>>> drawn(picture.hash, blobs[picture.hash]).pdf[:5]
b'%PDF-'
"""

from hidden_frame.storage.drawings.convert import Drawn, drawn
from hidden_frame.storage.drawings.guard import Guarded, guarded

__all__ = ["Drawn", "Guarded", "drawn", "guarded"]
