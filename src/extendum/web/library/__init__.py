"""Each instructor's library of moves, and their figures. Imports no other app."""
