"""How everything looks: colours, icons, marks, what the user prefers."""
