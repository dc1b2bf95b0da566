"""What a class is: moves, doses, words, items, the script, and the timeline made of it. Imports no other room."""
