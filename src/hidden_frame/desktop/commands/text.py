"""Text: looks, styles, markers."""

from __future__ import annotations

from functools import partial

from hidden_frame.compose.markers import LABELS
from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.command import Command, Row
from hidden_frame.model.text import Marker, Starts


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    text, kept = window.text, settings()
    menu = "Text"
    rows: list[Row] = [
        Command("folios", menu, "Folios…", "Ctrl+Shift+F", window.dialogs.folios),
        Command("no folios", menu, "Remove all folios", "", window.remove_folios),
        None,
        Command("bold", menu, "Bold", "Ctrl+B", lambda: text.toggle("bold"), text.editing),
        Command("italic", menu, "Italic", "Ctrl+I", lambda: text.toggle("italic"), text.editing),
        Command("two ends", menu, "Tab to the right edge", "Ctrl+Shift+T",
                text.two_ends, text.editing),
        None,
        Command("styles", menu, "Paragraph styles…", "Ctrl+T", window.dialogs.styles),
        Command("shelf of styles", menu, "Styles on the Shelf", "",
                lambda: window.show_shelf("Styles")),
        Command("character styles", menu, "Character styles…", "Ctrl+Alt+T",
                window.dialogs.character_styles),
        None,
        Command("characters", menu, "Characters…", "", window.at_caret.characters),
        Command("typographic", menu, "Quotes and dashes while typing", "",
                lambda: kept.change(typographic=not kept.now.typographic), lambda: True,
                lambda: kept.now.typographic),
        None,
        Command("find text", menu, "Find and replace…", "Ctrl+H", window.dialogs.find_text),
        Command("spelling list", menu, "Check spelling…", "Ctrl+Shift+H",
                window.dialogs.spelling),
        None,
        Command("contents list", menu, "Contents list…", "", window.lists.contents),
        Command("index mark", menu, "Mark for the index…", "Ctrl+Shift+X",
                window.at_caret.index_mark, text.editing),
        Command("index terms", menu, "Index terms…", "", window.lists.index_panel),
        Command("refer", menu, "Cross-reference…", "", window.at_caret.refer, text.editing),
        Command("name place", menu, "Name this paragraph…", "", window.at_caret.name_place,
                text.editing),
        Command("note", menu, "Note…", "", window.at_caret.note, text.editing),
        Command("note list", menu, "List of notes on this page", "", window.lists.put_notes),
        None,
        Command("bring in", menu, "Import a manuscript…", "Ctrl+Shift+I",
                lambda: window.stories.bring_in()),
    ]  # fmt: skip
    rows += _of_stories(window)
    anchored = "Text > Anchored in the text"
    rows += [
        Command("anchor picture", anchored, "Anchor a picture…", "",
                lambda: text.anchor_picture(), text.editing),
        Command("anchor item", anchored, "Anchor in the text", "", text.anchor_item,
                text.can_anchor),
        Command("free anchored", anchored, "Release from the text", "", text.free, text.anchored),
    ]  # fmt: skip
    breaks: tuple[tuple[Starts, str], ...] = (
        ("frame", "Break to next frame"), ("page", "Break to next page"),
        ("right page", "Break to next right page"), ("left page", "Break to next left page"),
    )  # fmt: skip
    rows += [
        Command(f"break {where}", "Text > Break", label, "", partial(text.break_here, where),
                text.editing)
        for where, label in breaks
    ]  # fmt: skip
    rows += [Command("no break", "Text > Break", "Remove the break", "", text.no_break,
                     text.editing)]  # fmt: skip
    rows += [
        Command("count anew", "Text > List", "Restart the list here", "", text.count_anew,
                text.counts, text.counts_anew),
        Command("count from", "Text > List", "Start the list at…", "", text.count_from,
                text.counts),
    ]  # fmt: skip
    rows += [
        Command("running head", "Text > Insert marker", "Running head…", "",
                window.at_caret.running_head, text.editing),
        Command("marker date", "Text > Insert marker", "Date…", "", window.at_caret.date,
                text.editing),
    ]  # fmt: skip
    rows += [
        Command(f"marker {kind}", "Text > Insert marker", f"Insert marker: {label}", "",
                partial(text.marker, Marker(kind)), text.editing)
        for kind, label in LABELS.items()
        if kind != "date"
    ]  # fmt: skip
    rows += [
        Command(f"style {n}", "Text > Paragraph style", f"Paragraph style {n} of the list",
                f"Ctrl+{n}", partial(text.style, n), partial(text.has_style, n),
                None, partial(text.style_name, n))
        for n in range(1, 10)
    ]  # fmt: skip
    return rows


def _of_stories(window: Workplace) -> list[Row]:
    """What can be done with stories and their frames."""
    stories, menu = window.stories, "Text > Story"
    return [
        Command("stories", menu, "Stories", "", lambda: window.show_shelf("Stories")),
        Command("link frame", menu, "Link the next frame", "Ctrl+Shift+L", stories.start_link,
                stories.can_link),
        Command("unlink frame", menu, "Unlink the frame from its story", "", stories.take_out,
                stories.in_story),
        Command("part story", menu, "Split the story at the caret", "", stories.part_here,
                stories.can_part),
        Command("write out", menu, "Export the story…", "", lambda: stories.write_out(),
                lambda: bool(stories.story_here())),
    ]  # fmt: skip
