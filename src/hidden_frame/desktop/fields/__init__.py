"""Fields and forms, of which panels and dialogs are made."""
