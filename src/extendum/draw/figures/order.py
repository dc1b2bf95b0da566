"""Who is before whom: parts of a picture in the order of painting."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from extendum.core.figure.rings import Points

#: The side of a cell in which depths are compared, in centimetres, and the difference that settles it.
CELL, SETTLED = 2.0, 1.5
#: The vote of a rule, more than any number of cells.
SURE = 1e4
#: Cells of the picture in ascending order, and how near a solid is in each.
Depths = tuple[NDArray[np.int64], Points]
Votes = dict[tuple[str, str], float]
_ROW = 1 << 20


def depths(flat: Points, near: Points, cell: float = CELL) -> Depths:
    """How near a solid is in each cell of the picture that it covers: from points (n, 2) and their depths (n,)."""
    cells = np.floor(flat / cell).astype(np.int64)
    keys = cells[:, 0] * _ROW + cells[:, 1]
    order = np.lexsort((-near, keys))
    keys, near = keys[order], near[order]
    first = np.concatenate(([True], keys[1:] != keys[:-1]))
    return keys[first], near[first]


def votes(parts: Mapping[str, Depths]) -> Votes:
    """For each pair of parts that overlap, how much the first is nearer (above 0) or farther."""
    names = list(parts)
    found: Votes = {}
    for n, a in enumerate(names):
        keys, near = parts[a]
        for b in names[n + 1 :]:
            others, far = parts[b]
            place = np.minimum(np.searchsorted(others, keys), len(others) - 1)
            both = others[place] == keys
            if both.any():
                found[(a, b)] = float(np.clip(near[both] - far[place[both]], -SETTLED, SETTLED).sum())
    return found


def far_to_near(names: Sequence[str], found: Votes) -> list[str]:
    """An order of painting that breaks as few and as small votes as it can: the most covered first."""
    left = list(names)
    weight = {pair: vote for pair, vote in found.items() if vote}
    weight |= {(b, a): -vote for (a, b), vote in weight.items()}
    order: list[str] = []
    while left:
        # Farthest is what is before the least of what is left.
        def before(name: str) -> float:
            return sum(max(0.0, weight.get((name, other), 0.0)) for other in left if other != name)

        best = min(left, key=before)
        order.append(best)
        left.remove(best)
    return order
