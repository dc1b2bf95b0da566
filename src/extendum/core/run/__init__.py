"""What becomes of a class that is taught, rehearsed or recorded. Imports every room but checks, figure and heard."""
