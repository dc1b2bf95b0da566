"""Classes as they are kept, and their screens: Shelf, Brief, Desk, Words, Checks. Imports the library and the guide."""
