"""Which moves there are, what speaks against one, and what could come next. Imports the model, timing and edit."""
