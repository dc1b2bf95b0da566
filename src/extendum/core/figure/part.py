"""A solid of a body or a thing, as rows of points whose hulls make it up."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise

import numpy as np

from extendum.core.figure.rings import Points


@dataclass
class Part:
    """A solid. ``joints``: where it grows out of what it hangs on; nothing tells it apart there (``reach``, in cm).

    ``digit``: of a hand or a foot, of how many of its last hulls each of the five fingers or toes is made.
    """

    name: str
    tone: str
    rings: list[Points] = field(default_factory=list)
    more: list[list[Points]] = field(default_factory=list)
    joints: list[tuple[Points, float]] = field(default_factory=list)
    limb: str = ""
    dense: list[Points] = field(default_factory=list)
    digit: int = 0

    def hulls(self) -> list[Points]:
        """Point sets whose hulls make up the part."""
        found = [np.vstack(pair) for pair in pairwise(self.rings)]
        return found + [np.vstack(some) for some in self.more]

    def digits(self) -> list[Part]:
        """A hand or a foot taken apart: what the fingers or toes grow out of, and the five of them."""
        end, whole = self.name[-2:], len(self.more) - 5 * self.digit
        base = Part(f"base{end}", self.tone, self.rings, self.more[:whole], limb=self.limb)
        some = [self.more[whole + n * self.digit : whole + (n + 1) * self.digit] for n in range(5)]
        made = [base]
        for n, hulls in enumerate(some):
            root, tip = (np.mean(np.vstack(one), axis=0) for one in (hulls[0][:3], hulls[-1][3:]))
            reach = min(2.6, 0.45 * float(np.linalg.norm(tip - root)))
            made.append(Part(f"digit{n}{end}", self.tone, [], hulls, [(root, reach)], self.limb))
        return made

    @cached_property
    def cloud(self) -> Points:
        """Points on its surface, close enough together to ask how near it is."""
        made: list[Points] = []
        for a, b in pairwise(self.rings):
            made += [a + (b - a) * t for t in (0.0, 0.25, 0.5, 0.75)] if len(a) == len(b) else [a, b]
        for some in self.more:
            if len({len(one) for one in some}) == 1 and len(some) > 1:
                first, last = some[0], some[-1]
                made += [first + (last - first) * t for t in (0.25, 0.5, 0.75)]
            made += some
        return np.vstack(made + self.rings[-1:] + self.dense)
