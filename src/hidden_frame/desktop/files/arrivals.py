"""A file that was just opened: under which path it is kept, and what is said of it."""

from __future__ import annotations

from pathlib import Path

from hidden_frame.checks.names import missing_families
from hidden_frame.desktop.state.session import Session
from hidden_frame.model.publication import Publication
from hidden_frame.storage.format import Opened


def kept_at(opened: Opened, path: Path) -> Path | None:
    """Where it is saved by Ctrl+S: nowhere, if its file says more than is known here."""
    return None if opened.more else path


def tell(session: Session, opened: Opened, path: Path) -> None:
    """Says in its window what is to be known of it."""
    if opened.more and session.path is None:
        session.called = f"{path.name}, to look at"
        session.looked.emit()
    for warning in [*opened.warnings, *missing_fonts(opened.publication)]:
        session.noticed.emit(warning)


def missing_fonts(publication: Publication) -> list[str]:
    """What is to be told of fonts when a publication is opened: one sentence at most."""
    found = list(missing_families(publication))
    if len(found) < 2:
        return [f.sentence for f in found]
    names = ", ".join(f"“{f.asks}”" for f in found)
    return [
        f"{len(found)} fonts are not on this machine: {names}. Their texts use another font; "
        "Checks (Shift+F2) shows where and offers to replace them."
    ]
