"""A recording heard from its timed text: moves, sides, switches, calls and counts, each guess with its reason."""
