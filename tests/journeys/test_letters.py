"""Letters that take more than one key: dead keys and the compose key, wherever one writes."""

from __future__ import annotations

from PySide6.QtWidgets import QAbstractButton, QLineEdit
from tests.journeys.hands import Hands

from hidden_frame.model.lookup import all_pages


def accents(hands: Hands, text: str) -> None:
    """Typed with dead keys: an accent before its letter."""
    dead = {"é": ("dead_acute", "e"), "è": ("dead_grave", "e"), "ü": ("dead_diaeresis", "u"),
            "ñ": ("dead_tilde", "n")}  # fmt: skip
    for character in text:
        if character in dead:
            accent, letter = dead[character]
            hands.fingers.strike(accent)
            hands.fingers.strike(letter)
        else:
            hands.fingers.type(character)
    hands.rest()


def words(hands: Hands) -> str:
    """All that the frames of the first pages say."""
    return "".join(
        getattr(c, "text", "")
        for page in all_pages(hands.publication)[:2] for item in page.items
        for p in getattr(item, "text", ()) for c in p.content
    )  # fmt: skip


def test_accents_by_dead_keys_and_compose(day):
    def journey(hands: Hands) -> None:
        hands.step("a pocket book, a frame to write in")
        hands.press("Pocket book")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        hands.press("Text", QAbstractButton)
        hands.fingers.drag(hands.on_page(40, 60), hands.on_page(280, 300))
        hands.rest()

        hands.step("dead keys, right after the frame was drawn")
        accents(hands, "café noir ")
        assert words(hands) == "café noir "

        hands.step("the compose key")
        for key in ("Multi_key", "o", "e"):
            hands.fingers.strike(key)
        hands.rest()
        assert words(hands) == "café noir œ"

        hands.step("opened again by a double click")
        hands.keys("Esc", "Esc")
        hands.fingers.click(*hands.on_page(500, 500))
        hands.fingers.click(*hands.on_page(100, 80), times=2)
        hands.rest()
        hands.keys("Ctrl+End")
        accents(hands, " und été ü")
        assert words(hands) == "café noir œ und été ü"

        hands.step("in a field, and then on the page again")
        hands.keys("Esc")
        hands.fingers.click(*hands.place_of(hands.find("Name", QLineEdit)))
        hands.keys("Ctrl+a")
        accents(hands, "séñor")
        hands.fingers.keys("Enter")
        hands.rest()
        item = next(i for p in all_pages(hands.publication)[:2] for i in p.items)
        assert item.name == "séñor"
        hands.fingers.click(*hands.on_page(100, 80), times=2)
        hands.rest()
        hands.keys("Ctrl+End")
        accents(hands, "é")
        assert words(hands) == "café noir œ und été üé"

    day(journey)
