"""What is read, heard and counted of a timeline: cue sheet, captions, sound, coverage. Imports the model and timing."""
