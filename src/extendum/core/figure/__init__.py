"""How a body looks in a move: skeleton, pose, limits and words. Imports the model."""
