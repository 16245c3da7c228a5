"""Items, masters and pages carried elsewhere with all that they refer to (R24)."""
