"""The Stage, rehearsals, recordings, and the screens that follow. Imports classes and the library."""
