"""How near a proposal is to the best: what was found as a bar, and what could still be better beyond it."""

from __future__ import annotations

from extendum.draw.svg import n, tag

WIDTH, HEIGHT = 400, 18
_TRACK = 7


def draw_proof(score: int, bound: int) -> str:
    """The score as a bar of a scale that ends at the bound; what lies between is dotted."""
    whole = max(1, bound, score)
    at = max(2.0, (WIDTH - 12) * max(0, score) / whole)
    end = WIDTH - 12
    found = tag("rect", x=0, y=_TRACK, width=n(at), height=6, class_="found")
    open_ = tag("path", d=f"M{n(at)} {_TRACK + 3}H{n(end)}", class_="open") if end - at > 1 else ""
    limit = tag("path", d=f"M{n(end)} 2V{HEIGHT - 2}", class_="limit")
    peg = tag("path", d=f"M{n(at - 4)} 1H{n(at + 4)}L{n(at + 2)} 9H{n(at - 2)}Z", class_="peg")
    told = "nothing better is possible" if bound <= score else f"{score} of at most {bound} points"
    box = f"0 0 {WIDTH} {HEIGHT}"
    return tag("svg", found + open_ + limit + peg, class_="proof", viewBox=box, role="img", aria_label=told)
