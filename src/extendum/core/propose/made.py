"""A plan as a class that can be taught: built, fitted, mended where the checks find something, and scored again.

It needs no solver: the first good class of a brief is made from a greedy plan.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from extendum.core.checks.finding import Finding, Severity
from extendum.core.checks.outcome import mended
from extendum.core.checks.report import Report, check
from extendum.core.fit.fit import Fitter
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.model.section import Section
from extendum.core.propose.build import built, talk_s
from extendum.core.propose.candidates import candidates
from extendum.core.propose.greedy import Greedy
from extendum.core.propose.judge import Pick, Plan, Task
from extendum.core.propose.rules import rules_for
from extendum.core.propose.weights import Sliders, Weights
from extendum.core.timing.compile import compile_script

#: The closing quiet may take so many seconds of what a plan leaves.
QUIET_S = 12
#: Remedies in turn for one class.
MENDED_MOST = 12
_WEIGHTY = (Severity.FIX, Severity.CONSIDER)


@dataclass(frozen=True, slots=True)
class Proposal:
    """A class that was proposed: fitted to the second, with what it is worth and what no plan can exceed.

    ``planned``: the score of the plan on its grid, ``score``: that of the class after the exact fit. ``open``: findings
    to fix or to consider that are left; ``keys``: of its candidates.
    """

    script: Script
    plan: Plan
    planned: int
    bound: int
    score: int
    open: tuple[Finding, ...]
    keys: frozenset[str] = frozenset()

    @property
    def gap_percent(self) -> float:
        """How much better a plan could be at the most, in percent of what this one is worth."""
        return max(0.0, 100 * (self.bound - self.planned) / max(1, abs(self.planned)))


class Maker:
    """Makes classes of plans for one brief."""

    def __init__(
        self,
        script: Script,
        library: Sequence[LibraryMove],
        sliders: Sliders = Sliders(),  # noqa: B008 frozen
        known: Mapping[str, int] | None = None,
        taken: Callable[[str], str] = lambda key: "",
        skipped: Mapping[str, int] | None = None,
    ) -> None:
        self.library, self.taken = library, taken
        self.task = Task(script, candidates(script, library), Weights().shifted(sliders), known or {}, skipped or {})
        self.rules = rules_for(self.task, talk_s(script), QUIET_S)

    @property
    def impossible(self) -> bool:
        """Whether there is no move at all, or none for a wanted area."""
        reached = {does.region for one in self.task.candidates for does in one.does}
        return not self.task.candidates or not set(self.rules.areas) <= reached

    def at_once(self) -> Proposal:
        """A good class without a search; its plan may break a rule or leave a finding."""
        plan = Greedy(self.task, self.rules).grown()
        score = self.task.score(plan)
        return self.made(plan, score, score, mends=False)

    # ---- the class of a plan --------------------------------------------------------------------
    def made(self, plan: Plan, planned: int, bound: int, *, mends: bool = True) -> Proposal:
        """A plan as a class: built, fitted, its findings mended where they can be, and scored again."""
        script = self._fitted(built(self.task, plan, self.taken))
        script, report = self._mended(script) if mends else (script, self._look(script))
        return Proposal(
            script,
            plan,
            planned,
            bound,
            self._score(plan, script),
            tuple(one for one in report.open if one.severity in _WEIGHTY),
            frozenset(self.task.candidates[pick.candidate].key for pick in plan),
        )

    def _fitted(self, script: Script) -> Script:
        """The class on the second; holds that activity follows get no longer than planned."""
        tight = script
        if self.rules.held_most is not None:
            tight = _each_move(script, lambda item: item.having(replace(item.quantity, most=item.quantity.wanted)))
        result = Fitter(tight).fit(script.brief.target_s)
        if not result.reached:
            result = Fitter(script).fit(script.brief.target_s)
        now = {item.id: item.quantity.value for item in result.script.items()}
        return _each(script, lambda item: item.having(item.quantity.at(now[item.id])))

    def _mended(self, script: Script) -> tuple[Script, Report]:
        """The class with the remedies of what is found, fitted again after each."""
        report = self._look(script)
        for _ in range(MENDED_MOST):
            for finding in (one for one in report.open if one.severity in _WEIGHTY and one.found.mend):
                try:
                    after = self._fitted(mended(script, finding, self.library, self.taken).script)
                except RefusedError:
                    continue
                again = self._look(after)
                if len(_weighty(again)) < len(_weighty(report)) and _keys(after) == _keys(script):
                    script, report = after, again
                    break
            else:
                break
        return script, report

    def _look(self, script: Script) -> Report:
        return check(script, compile_script(script), self.library, self.taken)

    def _score(self, plan: Plan, script: Script) -> int:
        """The score of the class as it is fitted: between the steps of the grid, too."""
        at = {item.move.key: item.quantity.value for item in script.moves()}
        picks = []
        for pick in plan:
            one = self.task.candidates[pick.candidate]
            value, gap = at.get(one.key), one.values[1] - one.values[0] if one.most else 1
            steps = Fraction(value - one.values[0], gap) if value is not None else pick.steps
            picks.append(Pick(pick.candidate, pick.part, steps))  # type: ignore[arg-type]
        return int(self.task.score(tuple(picks)))


def _weighty(report: Report) -> list[Finding]:
    return [one for one in report.open if one.severity in _WEIGHTY]


def _keys(script: Script) -> list[str]:
    return [item.move.key for item in script.moves()]


def _each(script: Script, change: Callable[[Item], Item]) -> Script:
    def within(section: Section) -> Section:
        groups = tuple(replace(one, items=tuple(map(change, one.items))) for one in section.groups)
        return replace(section, groups=groups)

    return replace(script, sections=tuple(map(within, script.sections)))


def _each_move(script: Script, change: Callable[[MoveItem], MoveItem]) -> Script:
    return _each(script, lambda item: change(item) if isinstance(item, MoveItem) else item)
