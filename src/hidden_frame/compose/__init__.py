"""What a publication comes to: derived, never stored.

folios and sides → cascade → placing → drawings → one scene per page, a file each.
"""
