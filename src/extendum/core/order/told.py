"""What an order costs against the present one, as a sentence."""

from __future__ import annotations

from extendum.core.order.section_order import Proposal


def cost_words(one: Proposal) -> str:
    """The changes of posture and props and the seconds that an order saves or costs, and whether it is proved best."""
    if one.same:
        return "This is the present order."
    counted = (
        ("change of posture", "changes of posture", one.before.postures, one.after.postures),
        ("prop in or out of hand", "props in or out of hand", one.before.props, one.after.props),
    )
    told = [_more_or_fewer(*parts) for parts in counted if parts[2] != parts[3]]
    told = told or ["as many changes as now"]
    length = f"{abs(one.seconds)} s {'longer' if one.seconds > 0 else 'shorter'}" if one.seconds else "the same length"
    proof = "Proved the best." if one.exact else "Good, not proved the best."
    sentence = f"{', '.join(told)}; {length}."
    return f"{sentence[0].upper()}{sentence[1:]} {proof}"


def _more_or_fewer(single: str, several: str, before: int, after: int) -> str:
    by = abs(after - before)
    return (
        f"{by} {'fewer' if after < before else 'more'} {single if by == 1 else several} ({after} instead of {before})"
    )
