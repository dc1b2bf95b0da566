"""A class as moving pictures: each frame follows from the timeline and the time alone."""
