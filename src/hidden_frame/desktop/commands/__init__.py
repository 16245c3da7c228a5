"""Every command as data, a file for each menu: its name, key, title, what it does, and when."""
