"""What is doubtful in a publication: each finding in a sentence, with a place and a fix."""
