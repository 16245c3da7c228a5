"""What a window holds: its session, what is seen and selected, what can be done."""
