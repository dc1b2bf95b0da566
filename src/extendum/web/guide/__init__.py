"""Help: what each screen is for, its keys and its words. Imports no other app."""
