"""Recorded speech: what is speech in it, cleaned up and evened, and a long recording cut into its texts."""
