"""Readers and writers of open formats; pure, built on the core."""
