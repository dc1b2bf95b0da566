"""How long everything lasts, why, and what is said when. Imports the model."""
