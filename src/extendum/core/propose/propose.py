"""A class from its brief: candidates, the best plan with its proof, the words, the exact fit, and what the checks say.

What a check finds becomes a constraint, and the plan is made again. docs/propose.md tells all of it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import partial
from time import monotonic

from extendum.core.checks.finding import Finding, Severity
from extendum.core.checks.outcome import mended
from extendum.core.checks.report import Report, check
from extendum.core.fit.fit import Fitter
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.model.section import Section, SidePlan
from extendum.core.propose.build import built, talk_s
from extendum.core.propose.candidates import candidates
from extendum.core.propose.conflict import conflict
from extendum.core.propose.greedy import Greedy
from extendum.core.propose.judge import Pick, Plan, Task
from extendum.core.propose.ready import made_ready
from extendum.core.propose.rules import Rules, rules_for
from extendum.core.propose.search import Found, Search
from extendum.core.propose.weights import Sliders, Weights
from extendum.core.timing.compile import compile_script

#: The closing quiet may take so many seconds of what a plan leaves.
QUIET_S = 12
#: Work of one search, in the solver's own count: about as many seconds on a small machine.
WORK = 60.0
#: How often what a check refuses makes a plan anew.
AGAIN = 8
#: Seconds of a plan that is made anew when the time is over, so that nothing is left to fix or to consider.
LATE_S = 2.0
#: Hears which proposal is being made, its best score so far, and what no plan can exceed; False stops the search.
Tell = Callable[[int, int, int], bool]
_WEIGHTY = (Severity.FIX, Severity.CONSIDER)


@dataclass(frozen=True, slots=True)
class Proposal:
    """A class that was proposed: fitted to the second, with what it is worth and what no plan can exceed.

    ``planned``: the score of the plan on its grid, ``score``: that of the class after the exact fit. ``open``: findings
    to fix or to consider that are left.
    """

    script: Script
    plan: Plan
    planned: int
    bound: int
    score: int
    open: tuple[Finding, ...]

    @property
    def gap_percent(self) -> float:
        """How much better a plan could be at the most, in percent of what this one is worth."""
        return max(0.0, 100 * (self.bound - self.planned) / max(1, abs(self.planned)))


class NothingMeetsError(RefusedError):
    """No class holds everything: the smallest set of wishes found that cannot be had together."""

    def __init__(self, wishes: tuple[str, ...]) -> None:
        self.wishes = wishes
        super().__init__("brief", "wishes that can be met together", "; ".join(wishes))


class Proposer:
    """Makes proposals for one class; what it learns from one it keeps for the next."""

    def __init__(
        self,
        script: Script,
        library: Sequence[LibraryMove],
        sliders: Sliders = Sliders(),  # noqa: B008 frozen
        known: Mapping[str, int] | None = None,
        taken: Callable[[str], str] = lambda key: "",
    ) -> None:
        for section in script.sections:
            for group in section.groups:
                if group.rounds > 1 or group.side_plan is not SidePlan.EACH_MOVE:
                    found = f"{group.rounds} rounds" if group.rounds > 1 else str(group.side_plan)
                    raise RefusedError(f"{section.name or section.id}", "a section without rounds and chains", found)
        self.library, self.taken = library, taken
        self.task = Task(script, candidates(script, library), Weights().shifted(sliders), known or {})
        self.rules = rules_for(self.task, talk_s(script), QUIET_S)
        self._ready = False

    def several(self, n: int, seconds: float, tell: Tell = lambda *_: True) -> list[Proposal]:
        """So many classes, the best first; each has at most two thirds of the moves of any before it."""
        found: list[Proposal] = []
        for nth in range(n):
            if self.exhausted:
                break
            try:
                found.append(self.another(seconds, partial(tell, nth)))
            except RefusedError:
                if not found:
                    raise
                break
        return found

    def another(self, seconds: float, tell: Callable[[int, int], bool] = lambda score, bound: True) -> Proposal:
        """The best class that differs from those made so far in a third of its moves."""
        made = self.best(seconds, tell=tell)
        self.unlike(frozenset(self.task.candidates[pick.candidate].key for pick in made.plan))
        return made

    @property
    def exhausted(self) -> bool:
        """Whether every further class would be the same: what must be in it leaves no room for anything else."""
        return any(not keys for keys in self.rules.unlike)

    def unlike(self, keys: frozenset[str]) -> None:
        """Further classes have at most two thirds of these moves, beside those that must be in."""
        self._make_ready()
        self.rules = replace(self.rules, unlike=(*self.rules.unlike, keys - self.rules.must))

    @property
    def impossible(self) -> bool:
        """Whether there is no move at all, or none for a wanted area."""
        reached = {does.region for one in self.task.candidates for does in one.does}
        return not self.task.candidates or not set(self.rules.areas) <= reached

    def at_once(self) -> Proposal:
        """A good class without a search; its plan may break a rule or leave a finding."""
        plan = Greedy(self.task, self.rules).grown()
        score = self.task.score(plan)
        return self._made(Found(plan, score, score))

    def best(
        self, seconds: float, work: float = WORK, tell: Callable[[int, int], bool] = lambda score, bound: True
    ) -> Proposal:
        """The best class that was found; NothingMeetsError where no class meets the brief."""
        until = monotonic() + seconds
        self._make_ready()
        rules = self.rules
        if self.impossible:
            raise NothingMeetsError(conflict(self.task, rules, self.library))
        best: Proposal | None = None
        hint = Greedy(self.task, rules).grown()
        for _ in range(AGAIN):
            found = self._plan(rules, hint, max(LATE_S, until - monotonic()), work, tell)
            if not found.plan:
                break
            made = self._made(found)
            if best is None or (len(made.open), -made.score) < (len(best.open), -best.score):
                best = made
            if not made.open:
                break
            hint, rules = found.plan, self._learned(rules, made)
        if best is None:
            raise NothingMeetsError(conflict(self.task, self.rules, self.library))
        self.rules = rules
        return best

    def _make_ready(self) -> None:
        """Mend the words of the candidates, once."""
        if not self._ready:
            script = self.task.script
            ready = (made_ready(one, script, self.library, self.taken) for one in self.task.candidates)
            self.task = replace(self.task, candidates=tuple(one for one in ready if one))
            self.rules, self._ready = rules_for(self.task, talk_s(script), QUIET_S), True

    def _plan(self, rules: Rules, hint: Plan, seconds: float, work: float, tell: Callable[[int, int], bool]) -> Found:
        search = Search(self.task, rules)
        search.hint(hint)
        return search.best(seconds, work, tell)

    # ---- the class of a plan --------------------------------------------------------------------
    def _made(self, found: Found) -> Proposal:
        """A plan as a class: built, fitted, its findings mended where they can be, and scored again."""
        script = self._fitted(built(self.task, found.plan, self.taken))
        script, report = self._mended(script)
        return Proposal(
            script,
            found.plan,
            found.score,
            found.bound,
            self._score(found.plan, script),
            tuple(one for one in report.open if one.severity in _WEIGHTY),
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
        for _ in range(12):
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

    def _learned(self, rules: Rules, made: Proposal) -> Rules:
        """The rules with what the checks refused: one move to blame goes, several are not all in it again."""
        never, apart = set(rules.never), list(rules.apart)
        for finding in made.open:
            blamed = (
                frozenset(item.move.key for item in made.script.moves() if item.id in finding.found.items) - rules.must
            )
            if len(blamed) == 1:
                never |= blamed
            elif blamed:
                apart.append(blamed)
        return replace(rules, never=frozenset(never), apart=tuple(dict.fromkeys(apart)))


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
