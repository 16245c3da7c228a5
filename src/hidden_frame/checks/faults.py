"""The faults of one page, read from its scene: what is seen is what is judged."""

from __future__ import annotations

from hidden_frame.checks.fault import Criteria, Fault, PrintedItem
from hidden_frame.checks.kinds import item_checks
from hidden_frame.compose.scene import Scene
from hidden_frame.model.memory import remembered


@remembered()
def faults_of(scene: Scene, limits: Criteria) -> tuple[Fault, ...]:
    """The faults of a page's printed items, bottom to top."""
    looks = [PrintedItem(scene, placed, limits) for placed in scene.placed if placed.printing]
    checks = item_checks()
    return tuple(fault for look in looks for check in checks for fault in check(look))
