"""The Logbook: sessions and what became of them; backups. Imports teaching, classes and the library."""
