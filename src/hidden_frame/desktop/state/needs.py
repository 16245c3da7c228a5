"""What a command needs, said where it can't be done now."""

from __future__ import annotations

_TEXT = "Double-click into a text first; this is done to words."
_ITEM = "Select an item of this page’s, or this master’s, own first."
_PAGE = "Select a page first."
_MASTER_ITEM = "Select an item that comes from a master first."
_ON_PAGES = "Go to the pages first; masters have none of it."
_NO_MASTER = "There is no master yet; make one first."
_GUIDES = "There are no free guides here; pull one out of a ruler."
_STORY = "There is no story yet; link two frames, or bring in a manuscript."
_LEAVE_TEXT = "Leave the text first (Escape)."

# By a command's id, or by the word that the ids of several begin with.
NEEDS: dict[str, str] = {
    "undo": "Nothing has been done yet.",
    "redo": "Nothing was undone.",
    "cut": "Select words, items or pages first.",
    "copy": "Select words, items or pages first.",
    "delete": "Select items or pages first.",
    "revert": "There is nothing to go back to: it is as it was saved, or was never saved.",
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
    "style": "Double-click into a text first; the number is that of a style in the list.",
    "count": "Put the caret into a paragraph of a numbered style first.",
    "anchor item": "Select one picture or text frame of the page’s own first.",
    "free anchored": "Click something that is anchored in the text that you write first.",
    "link frame": "Select one text frame first.",
    "unlink frame": "Select a frame that shows a story first.",
    "part story": "Put the caret into a story first, where it is to be parted.",
    "write out": _STORY, "paths": _STORY, "galley": _STORY,
    **dict.fromkeys(
        ("duplicate pages", "move pages", "delete pages", "new from pages", "hold", "blind"),
        _PAGE),
    "tie": "Select two pages that face each other first.",
    "blind followers": "Go to the master first that the pages follow.",
    "join section": "This is the first section; there is none before it.",
    **dict.fromkeys(("new on", "rename master", "duplicate master", "board"), _NO_MASTER),
    "page master": _ON_PAGES, "override all": _ON_PAGES,
    "next spread": _ON_PAGES, "previous spread": _ON_PAGES,
    "to master": "Select an item of the page’s own first.",
    "copy to master": "Select an item of the page’s own first.",
    "split faces": "Select an item first that stands on both faces of this master.",
    "join faces": "Select one item on each face of this master first.",
    "override": _MASTER_ITEM, "hide here": _MASTER_ITEM, "make local": _MASTER_ITEM,
    "follow": "Select an item first that departs from its master here.",
    "follow pages": "Select pages first on which something departs from their masters.",
    "delete master": "Go to the master first that is to be deleted.",
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
