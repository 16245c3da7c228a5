"""What pages are seen on: the desk, the Run, the flatplan, the board, the galley."""
