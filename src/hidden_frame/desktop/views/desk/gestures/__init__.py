"""What a hand does on the desk, a file for each gesture."""
