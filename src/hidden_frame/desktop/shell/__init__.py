"""The program's windows, with their bars and menus."""
