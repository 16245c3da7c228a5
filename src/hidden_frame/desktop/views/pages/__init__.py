"""What the Run and the flatplan share: selecting, dragging and dropping pages and masters."""
