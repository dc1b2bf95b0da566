"""What usually needs care in a class, and edits that mend it. Imports every room but run, figure and heard."""
