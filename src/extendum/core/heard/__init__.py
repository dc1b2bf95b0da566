"""What the words of a recording say of the class in it. Imports the model, timing and the word lists of checks."""
