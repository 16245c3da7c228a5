"""What the days call things where the interface calls them otherwise by now.  Whoever changes a
label changes one line here, and no day."""

from __future__ import annotations

SHOWN = {
    "Bring in": "Import",
    "Go on with it": "Recover it",
    "Keep": "Apply",
    "Make": "Create",
    "Make it": "Create",
    "Put in": "Insert",
    "Type what you look for": "Type what you are looking for",
    "It has more than the file": "It differs from the file",
    "These come with what was copied": "These styles come with the copied text",
}


def shown(name: str) -> str:
    """The label as it is shown now."""
    return SHOWN.get(name, name)
