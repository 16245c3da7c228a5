"""The families of fonts in a list: usable ones, those that can't be used with the reason, and
one that the publication uses and that is not here."""

from __future__ import annotations

from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.typeset.fonts import font_book


def show_families(field: Choice, now: str | None, unsaid: str = "") -> None:
    """Fills a list; `now` stays chosen even where it is missing.

    `unsaid` names an entry for None: to follow another's family.
    """
    book = font_book()
    options: list[tuple[str, object]] = [(f, f) for f in book.families()]
    if unsaid:
        options.insert(0, (unsaid, None))
    if now is not None and not book.knows(now):
        reason = book.refused.get(now, "is not on this machine")
        options.insert(0, (f"{now} — {reason}", now))
    refused = {f: r for f, r in sorted(book.refused.items()) if f != now}
    options += [(f"{family} — {reason}", family) for family, reason in refused.items()]
    field.show_choice(options, now)
    field.close_off({f: f"“{f}” {reason}" for f, reason in refused.items()})
