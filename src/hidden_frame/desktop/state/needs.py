"""What a command needs, said where it can't be done now."""

from __future__ import annotations

_TEXT = "Double-click a text first; this works on words."
_ITEM = "First select an item that belongs to this page or master itself."
_PAGE = "Select a page first."
_MASTER_ITEM = "Select an item that comes from a master first."
_ON_PAGES = "Go to the pages first; masters don’t have this."
_NO_MASTER = "There is no master yet; make one first."
_GUIDES = "There are no free guides here; pull one out of a ruler."
_STORY = "There is no story yet; link two frames, or import a manuscript."
_LEAVE_TEXT = "Leave the text first (Escape)."

# By a command's id, or by the word that the ids of several begin with.
NEEDS: dict[str, str] = {
    "undo": "Nothing has been done yet.",
    "redo": "Nothing was undone.",
    "cut": "Select words, items or pages first.",
    "copy": "Select words, items or pages first.",
    "delete": "Select items or pages first.",
    "revert": "There is nothing to revert to: it is as it was saved, or has never been saved.",
    "paste same": _LEAVE_TEXT, "select none": _LEAVE_TEXT,
    "item above": _LEAVE_TEXT, "item below": _LEAVE_TEXT,
    **dict.fromkeys(
        ("duplicate", "repeat", "flip", "front", "forward", "backward", "back", "lock", "align"),
        _ITEM),
    "group": "Select two or more items first.",
    "ungroup": "Select a group first.",
    "distribute": "Select two or more items first.",
    "same": "Select two or more items first.",
    **dict.fromkeys(
        ("bold", "italic", "two ends", "index mark", "refer", "name place", "note",
         "anchor picture", "break", "no break", "running head", "marker", "paste plain"), _TEXT),
    "style": "Double-click a text first; the number is that of a style in the list.",
    "count": "First put the caret into a paragraph with a numbered style.",
    "anchor item": "First select one picture or text frame that belongs to the page itself.",
    "free anchored": "First click something anchored in the text you are editing.",
    "link frame": "Select one text frame first.",
    "unlink frame": "Select a frame that shows a story first.",
    "part story": "First put the caret where the story is to be split.",
    "write out": _STORY, "paths": _STORY, "galley": _STORY,
    **dict.fromkeys(
        ("duplicate pages", "move pages", "delete pages", "new from pages", "hold", "blind"),
        _PAGE),
    "tie": "Select two pages that face each other first.",
    "blind followers": "First go to the master that the pages follow.",
    "join section": "This is the first section; there is none before it to join.",
    **dict.fromkeys(("new on", "rename master", "duplicate master", "board"), _NO_MASTER),
    "page master": _ON_PAGES, "override all": _ON_PAGES,
    "next spread": _ON_PAGES, "previous spread": _ON_PAGES,
    "to master": "First select an item that belongs to the page itself.",
    "copy to master": "First select an item that belongs to the page itself.",
    "split faces": "First select an item that appears on both faces of this master.",
    "join faces": "Select one item on each face of this master first.",
    "override": _MASTER_ITEM, "hide here": _MASTER_ITEM, "make local": _MASTER_ITEM,
    "follow": "First select an item that differs from its master here.",
    "follow pages": "First select pages on which something differs from their masters.",
    "delete master": "First go to the master that is to be deleted.",
    "fit selection": "Select an item first.",
    "lock guides": _GUIDES, "remove guides": _GUIDES,
}  # fmt: skip


def need_of(command_id: str) -> str:
    """What a command needs; "" where nobody has said it.

    >>> need_of("marker folio") == need_of("bold")
    True
    """
    known = NEEDS.get(command_id)
    while known is None and " " in command_id:
        command_id = command_id.rpartition(" ")[0]
        known = NEEDS.get(command_id)
    return known or ""
