"""Voices of instructors: what they have read, kept as sound beside the database, and music for under a class."""
