"""Looking at a figure: from space to the picture, without perspective."""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np

from extendum.core.figure.rings import Points


class Eye:
    """A way to look: turned round the body, and from above. Pictures are in centimetres, y down."""

    def __init__(self, view: float, above: float) -> None:
        """``view``: degrees from the side (0: looking to the right) to the front (90); ``above``: how far down."""
        c, s, up, over = cos(radians(view)), sin(radians(view)), cos(radians(above)), sin(radians(above))
        self._to = np.array(((c, 0.0, s), (s * over, -up, -c * over), (s * up, over, -c * up)))

    @property
    def towards(self) -> Points:
        """The direction to the eye."""
        return np.asarray(self._to[2])

    def __call__(self, points: Points) -> Points:
        """Where points (n, 3) are in the picture, (n, 2)."""
        return np.asarray(points @ self._to[:2].T)

    def depth(self, points: Points) -> Points:
        """How near points are, in centimetres."""
        return np.asarray(points @ self._to[2])
