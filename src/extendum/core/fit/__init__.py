"""Which doses, and which optional items, make a class end on the second. Imports the model, timing and edit."""
