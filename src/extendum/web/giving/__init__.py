"""Files made of a class, and what takes a while to make. Imports classes."""
