"""Files made to harm, seeded: used by `tests/hostile` in part, and by `./bench faults` in full."""
