"""Properties of what is selected."""
