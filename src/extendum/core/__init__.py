"""Everything that is computed, in rooms; none of them knows a screen, a file or the clock."""
