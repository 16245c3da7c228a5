"""Masters made, applied, built on each other, departed from."""
