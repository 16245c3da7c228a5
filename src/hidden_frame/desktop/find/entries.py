"""What Find knows in a window: commands, fields, pages of the guide, hands, and the things of the
publication."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.desktop.find.hints import HINTS, PLACES
from hidden_frame.desktop.find.places import ITEMS, Fields
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.topics import topics
from hidden_frame.interact.finds.entry import FindEntry, also_of, known
from hidden_frame.model.publication import Publication

IN_PUBLICATION = "in the publication"
_BETWEEN = "|"  # places of a field in its id


def entries(commands: Commands, fields: Fields, publication: Publication) -> list[FindEntry]:
    """All of it, in the order in which equals are shown."""
    return [*_commands(commands), *_fields(fields), *_guide(), *_things(publication), *_hints()]


def places_of(entry: FindEntry) -> tuple[str, ...]:
    """The places where a field stands."""
    return tuple(entry.id.split(_BETWEEN))


def _commands(commands: Commands) -> Iterator[FindEntry]:
    for command in commands.list:
        action = commands[command.id]
        if command.id.startswith("style ") and not action.isEnabled():
            continue  # the style itself is a thing of the publication
        name = action.text().replace("&", "")
        place = command.menu.replace(" > ", " › ")
        yield FindEntry("command", command.id, name, place, also_of("command", command.id))


def _fields(fields: Fields) -> Iterator[FindEntry]:
    """A field that several kinds of items have is one."""
    found: dict[tuple[str, str], tuple[list[str], list[str]]] = {}
    for row in known():
        if row.place in ("command", "guide"):
            continue
        place = "item" if row.place in ITEMS else row.place
        places, also = found.setdefault((place, row.name), ([], []))
        places.append(row.place)
        also += row.also
    for (_, name), (places, also) in found.items():
        named = fields.named(tuple(places))
        yield FindEntry("field", _BETWEEN.join(places), name, named, tuple(also))


def _guide() -> Iterator[FindEntry]:
    for topic, _ in topics():
        yield FindEntry("guide", topic, topic, "Guide", also_of("guide", topic))


def _things(publication: Publication) -> Iterator[FindEntry]:
    """Masters, sections and styles by name."""
    facts = page_facts(publication)
    for master in publication.masters:
        yield FindEntry("thing", f"master {master.id}", f"Master {master.name}", IN_PUBLICATION,
                    (master.name,))  # fmt: skip
    for section in publication.sections:
        if section.pages:
            first = section.pages[0].id
            name = f"Section {section.name}, page {page_name(facts[first])}"
            also = (section.name, f"Section {section.name}")
            yield FindEntry("thing", f"page {first}", name, IN_PUBLICATION, also)
    for kind, styles in (
        ("Paragraph", publication.paragraph_styles),
        ("Character", publication.character_styles),
    ):
        for style in styles:
            yield FindEntry("thing", f"style {style.id}", f"{kind} style {style.name}",
                        IN_PUBLICATION, (style.name, f"style {style.name}"))  # fmt: skip


def _hints() -> Iterator[FindEntry]:
    for hint in HINTS:
        yield FindEntry("hint", hint.keys, hint.does, PLACES[hint.where], (hint.keys,))
