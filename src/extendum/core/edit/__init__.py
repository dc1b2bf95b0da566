"""Every change of a class, as a function from script to script. Imports the model and timing."""
