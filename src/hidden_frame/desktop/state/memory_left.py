"""How much memory the machine has left."""

from __future__ import annotations

from pathlib import Path

_SHORT = 0.08  # the share of all memory from which on it is short


def memory_is_short(told: Path = Path("/proc/meminfo")) -> bool:
    """Whether hardly any memory is left; False where the system does not say (proc(5))."""
    try:
        rows = dict(line.split(":", 1) for line in told.read_text("ascii").splitlines())
        left, whole = (int(rows[n].split()[0]) for n in ("MemAvailable", "MemTotal"))
    except (OSError, ValueError, KeyError, IndexError):
        return False
    return left < whole * _SHORT
