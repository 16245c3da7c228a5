"""Another trim or bleed, and what becomes of what is there (R30)."""
