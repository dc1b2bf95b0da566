"""A class as it is really taught: a fold over events."""
