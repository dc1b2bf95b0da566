"""What several apps read forms and show drawings with. Imports no other app."""
