"""The map of the library, a move's page, and moves of one's own. Imports classes and the library."""
