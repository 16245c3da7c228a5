"""What is doubtful about what stands on the pages: texts, pictures, edges, empty frames.

A page's faults are worked out from its scene and remembered with it, so that after an edit
only the pages that it touched are looked at again.

>>> from hidden_frame.compose.composer import Composer
>>> low = book.page(3).items[0].change(height=5)
>>> [f.kind for f in content_findings(Composer().compose(book.publication), blobs)]
['text does not fit']
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable, Mapping
from functools import partial
from typing import NamedTuple

from hidden_frame.checks.fault import Criteria, Fault
from hidden_frame.checks.faults import faults_of
from hidden_frame.checks.finding import Finding, Way
from hidden_frame.checks.kinds import KINDS, Kind, kind_of, rank_of, text_checks
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_name
from hidden_frame.compose.followers import followers
from hidden_frame.model.geometry import SIDES, Side
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.storage.declared import known_trouble


class FaultAt(NamedTuple):
    """A fault on a page, or on a face of a master that no page follows."""

    holder_id: str
    fault: Fault


def places(
    composition: Composition, holders: Iterable[str], known: Collection[str]
) -> list[FaultAt]:
    """The faults on some pages or masters; `known` are the pictures whose bytes are here."""
    publication = composition.publication
    limits = limits_of(publication, known)
    masters = masters_by_id(publication)
    found = []
    for holder_id in holders:
        if holder_id in masters:
            scenes = [composition.master_scene(holder_id, side) for side in SIDES]
        else:
            scenes = [composition.scene(holder_id)]
        faults = dict.fromkeys(f for scene in scenes for f in faults_of(scene, limits))
        found += [FaultAt(holder_id, fault) for fault in faults]
    return found


def to_look_at(publication: Publication) -> list[str]:
    """Every page, and the masters that no page follows, whose texts nothing else shows."""
    alone = [m for m, pages in followers(publication).items() if not pages]
    return [*(p.id for s in publication.sections for p in s.pages), *alone]


_limits: dict[Criteria, Criteria] = {}


def limits_of(publication: Publication, known: Collection[str]) -> Criteria:
    """What the faults of a scene depend on besides; the same object for equal ones."""
    setup = publication.setup
    missing = frozenset(p.hash for p in publication.pictures if p.hash not in known)
    troubles = ((p.hash, _trouble(p, known)) for p in publication.pictures)
    made = Criteria(
        setup.facing,
        setup.judges_lines,
        setup.least_ppi,
        setup.least_line_ppi,
        missing,
        publication.pictures,
        frozenset((digest, why) for digest, why in troubles if why),
    )
    if len(_limits) > 50:
        _limits.clear()
    return _limits.setdefault(made, made)


def _trouble(picture: Picture, known: Collection[str]) -> str:
    """What is wrong with a picture's file, if it is here."""
    if not isinstance(known, Mapping) or picture.hash not in known:
        return ""
    return known_trouble(picture.hash, partial(known.__getitem__, picture.hash), picture.kind)


def content_findings(
    composition: Composition, known: Collection[str], pages: Iterable[str] | None = None
) -> list[Finding]:
    """The findings on some pages; on all, and on masters without followers, if None."""
    holders = to_look_at(composition.publication) if pages is None else pages
    found = merged(composition, places(composition, holders, known))
    if pages is not None:
        return found
    return [*text_findings(composition), *found]


def text_findings(composition: Composition) -> list[Finding]:
    """What is doubtful about stories, rules for masters, the sections that text runs through, and
    the terms of the index: it has all of the text laid out."""
    return [finding for check in text_checks() for finding in check(composition)]


def merged(composition: Composition, found: Iterable[FaultAt]) -> list[Finding]:
    """One finding for each fault, however many pages show it."""
    groups: dict[tuple[str, str, str], list[FaultAt]] = {}
    looser: list[FaultAt] = []
    for place in found:
        fault = place.fault
        if fault.kind == "looser":
            looser.append(place)
        else:
            groups.setdefault((fault.kind, fault.item_id, fault.what), []).append(place)
    worst = sorted(groups.values(), key=_rank)
    rows = [_finding(composition, group) for group in worst]
    return [*rows, _looser(looser)] if looser else rows


def _rank(group: list[FaultAt]) -> tuple[int, float]:
    """By kind, the loosest lines first."""
    fault = group[0].fault
    needs = fault.needs
    wide = needs[0] if fault.kind == "loose line" and not isinstance(needs, str) else 0.0
    return rank_of(fault.kind), -wide


def _looser(found: list[FaultAt]) -> Finding:
    """One line for all that is looser than its style likes, and bearable."""
    needs = [p.fault.needs for p in found if not isinstance(p.fault.needs, str)]
    lines, most = int(sum(n[1] for n in needs)), max(n[0] for n in needs)
    pages = tuple(dict.fromkeys(p.holder_id for p in found))
    where = f"on {grouped(len(pages))} pages" if len(pages) > 1 else "on one page"
    some = f"{grouped(lines)} lines {where} have" if lines > 1 else f"One line {where} has"
    sentence = f"{some} wider spaces than the style prefers; none wider than {most:.0%}"
    sentence = sentence.replace("%", "\u00a0%.")
    return Finding("looser", sentence, pages[0], pages, item_id=found[0].fault.item_id, quiet=True)


def _finding(composition: Composition, group: list[FaultAt]) -> Finding:
    first = group[0]
    fault, publication = first.fault, composition.publication
    holders = tuple(p.holder_id for p in group)
    masters = masters_by_id(publication)
    pages = tuple(h for h in holders if h not in masters)
    name = _name(publication, fault)
    where, gap = _where(composition, holders), "" if fault.what.startswith(":") else " "
    return Finding(
        fault.kind, f"{where}: {name}{gap}{fault.what}.", holders[0], pages,
        _ways_out(composition, fault, holders), fault.item_id,
    )  # fmt: skip


def _ways_out(composition: Composition, fault: Fault, holders: tuple[str, ...]) -> tuple[Way, ...]:
    """What can be done at once; nothing where only the designer can judge.

    An item of a master that shows the same fault on several pages is changed on the master.
    """
    at = holders[0] if fault.carrier is None or len(holders) == 1 else fault.carrier
    ways = kind_of(fault.kind).ways
    return (
        ()
        if ways is None
        else ways(composition.publication, fault, at, _side(composition, holders[0]))
    )


def _side(composition: Composition, holder_id: str) -> Side:
    facts = composition.facts.get(holder_id)
    return "recto" if facts is None else facts.side


def _name(publication: Publication, fault: Fault) -> str:
    return f"“{fault.name}”" if fault.name else f"A {fault.noun}"


def _where(composition: Composition, holders: tuple[str, ...]) -> str:
    masters, facts = masters_by_id(composition.publication), composition.facts
    if holders[0] in masters:
        return f"Master “{masters[holders[0]].name}”"
    first = page_name(facts[holders[0]])
    if len(holders) == 1:
        return f"Page {first}"
    return f"{len(holders)} pages, the first {first}"


def counted(found: Iterable[Finding]) -> str:
    """“2 texts that do not fit, 1 picture of low resolution”: what an export will print."""
    numbers = Counter(finding.kind for finding in found)
    return ", ".join(
        _counted(kind, numbers[kind.id]) for kind in KINDS if kind.one and numbers[kind.id]
    )


def printed(kind_id: str) -> bool:
    """Whether a finding of this kind is counted before an export."""
    return bool(kind_of(kind_id).one)


def _counted(kind: Kind, number: int) -> str:
    return f"{number} {kind.many if number > 1 else kind.one}"
