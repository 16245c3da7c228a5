"""Qt Widgets: paints scenes, turns gestures into edits; no computation of its own."""
