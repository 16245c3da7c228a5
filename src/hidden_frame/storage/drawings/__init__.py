"""SVG drawings: guarded, then made into a one-page PDF that screen and print both use.

>>> rule = b'<svg xmlns="http://www.w3.org/2000/svg" width="9" height="2"><path d="M0 1h9"/></svg>'
>>> drawn("the hash of its bytes", rule, "rule.svg").pdf[:5]
b'%PDF-'
"""

from hidden_frame.storage.drawings.convert import Drawn, drawn
from hidden_frame.storage.drawings.guard import Guarded, guarded

__all__ = ["Drawn", "Guarded", "drawn", "guarded"]
