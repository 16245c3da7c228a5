"""Hidden Frame: multi-page publications on reusable master pages.

`Document`, `marker`, `paragraph`, `run` and `Refusal` are for scripts; see `hidden_frame.script`.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

__version__ = "0.2.0"
__all__ = ["Document", "Refusal", "marker", "paragraph", "run"]

if TYPE_CHECKING:
    from hidden_frame.script import Document, Refusal, marker, paragraph, run


def __getattr__(name: str) -> object:
    """What scripts use is loaded when it is asked for: the window opens without it."""
    if name in __all__:
        from hidden_frame import script

        return getattr(script, name)
    raise AttributeError(f"module “hidden_frame” has no “{name}”")
