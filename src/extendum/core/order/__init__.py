"""In which order the items of a section stand best. Imports the model, timing, edit and fit."""
