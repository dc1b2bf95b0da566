"""Whole classes for a brief, with proof of how near they are to the best (docs/propose.md)."""
