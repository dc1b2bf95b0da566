"""The best class for a brief: the search for a plan, its class, and what the checks refuse as a new constraint.

docs/propose.md tells all of it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.propose.build import talk_s
from extendum.core.propose.conflict import Conflict, conflict
from extendum.core.propose.greedy import Greedy
from extendum.core.propose.judge import Plan
from extendum.core.propose.made import QUIET_S, Maker, Proposal
from extendum.core.propose.ready import made_ready
from extendum.core.propose.rules import Rules, Unlike, rules_for
from extendum.core.propose.search import Found, Search

#: Work of one search, in the solver's own count: about as many seconds on a small machine.
WORK = 60.0
#: How often what a check refuses makes a plan anew.
AGAIN = 24
#: What of the time that is left a search gets: the first, so that what its class teaches is known early, and one after
#: a class that the checks have refused. One that is only to be bettered gets all of it.
FIRST_SHARE, REPAIR_SHARE = 0.7, 0.5
#: Seconds of a plan that is made anew when the time is over, so that nothing is left to fix or to consider.
LATE_S = 2.0
#: Percent of its moves that a class may share with another: proposals beside each other, and with one that it is like.
SHARED_PERCENT, SHARED_WITH_ITS_LIKE = 66, 60
#: Hears which proposal is being made, its best score so far, and what no plan can exceed; False stops the search.
Tell = Callable[[int, int, int], bool]


class NothingMeetsError(RefusedError):
    """No class holds everything: the smallest set of wishes found that cannot be had together."""

    def __init__(self, found: Conflict) -> None:
        self.wishes, self.conflict = found.wishes, found
        super().__init__("brief", "wishes that can be met together", "; ".join(found.wishes))


class NotInTimeError(ExtendumError):
    """No class was found in the time that there was; there may be one."""

    def __init__(self) -> None:
        super().__init__("No class was found in this time. Give it more, or ask for less.")


class Proposer(Maker):
    """Makes proposals for one class; what it learns from one it keeps for the next."""

    _ready = False

    def several(self, n: int, seconds: float, tell: Tell = lambda *_: True) -> list[Proposal]:
        """So many classes, the best first; each has at most two thirds of the moves of any before it."""
        found: list[Proposal] = []
        for nth in range(n):
            if self.exhausted:
                break
            try:
                found.append(self.another(seconds, partial(tell, nth)))
            except (NothingMeetsError, NotInTimeError):
                if not found:
                    raise
                break
        return found

    def another(self, seconds: float, tell: Callable[[int, int], bool] = lambda score, bound: True) -> Proposal:
        """The best class that differs from those made so far in a third of its moves."""
        made = self.best(seconds, tell=tell)
        self.unlike(made.keys)
        return made

    @property
    def exhausted(self) -> bool:
        """Whether every further class would be the same: what must be in it leaves no room for anything else."""
        return any(not other.keys for other in self.rules.unlike)

    def unlike(self, keys: frozenset[str], percent: int = SHARED_PERCENT) -> None:
        """Further classes share so many percent of their moves with these at the most, beside what must be in."""
        self._make_ready()
        self.rules = replace(self.rules, unlike=(*self.rules.unlike, Unlike(keys - self.rules.must, percent)))

    def ask_for(self, key: str) -> None:
        """Further classes have this move in them, where it is a candidate at all."""
        self._make_ready()
        if any(one.key == key for one in self.task.candidates):
            self.rules = replace(self.rules, must=self.rules.must | {key})

    def nearest(
        self, found: Conflict, seconds: float, tell: Callable[[int, int], bool] = lambda score, bound: True
    ) -> Proposal | None:
        """The best class without what a conflict gives up; None where nothing may, or that is not enough."""
        if found.nearest is None:
            return None
        script, areas = self.task.script, found.nearest.areas
        self.task = replace(self.task, script=replace(script, brief=replace(script.brief, areas=areas)))
        self.rules = found.nearest
        try:
            return self.best(seconds, tell=tell)
        except (NothingMeetsError, NotInTimeError):
            return None

    def best(
        self, seconds: float, work: float = WORK, tell: Callable[[int, int], bool] = lambda score, bound: True
    ) -> Proposal:
        """The best class that was found.

        NothingMeetsError where no class meets the brief, NotInTimeError where none was found in so many seconds.
        """
        self._make_ready()
        left, rules = seconds, self.rules
        hint: Plan = ()
        if self.impossible:
            raise NothingMeetsError(conflict(self.task, rules, self.library))
        best: Proposal | None = None
        impossible, refused, bound = False, False, self.task.ceiling
        before: int | None = None
        milder: Rules | None = None  # what is learned where a move that is to blame cannot be done without
        for n in range(AGAIN):
            share = FIRST_SHARE if n == 0 else REPAIR_SHARE if refused else 1.0
            found = self._plan(rules, hint, max(LATE_S, left * share), work, tell)
            left -= found.seconds
            if not found.plan:
                impossible = found.impossible
                if impossible and milder and left >= LATE_S:
                    rules, milder = milder, None
                    continue
                if impossible or best or left < LATE_S:
                    break
                continue
            bound, hint = min(bound, found.bound), found.plan  # what is learned only takes plans away
            made = self.made(found.plan, found.score, bound)
            if best is None or (len(made.open), -made.score) < (len(best.open), -best.score):
                best = made
            learned = self._learned(rules, made)
            refused = learned != rules
            if refused:
                milder, rules = replace(rules, apart=(*rules.apart, made.keys - rules.must)), learned
            elif found.stopped or found.score >= bound or left < LATE_S or found.score == before:
                break  # no better is possible, or there is no time, or looking once more has found nothing
            before = None if refused else found.score
        if best is None and not impossible:
            raise NotInTimeError
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
        search.hint(Greedy(self.task, rules).grown())
        if hint:
            search.hint(hint)
        return search.best(seconds, work, tell)

    def _learned(self, rules: Rules, made: Proposal) -> Rules:
        """The rules with what the checks refused.

        One move to blame goes, several are not all in it again; where none is to blame, this choice of moves is not.
        What only moves that must be in it are to blame for stays: nothing else can help it.
        """
        never, apart = set(rules.never), list(rules.apart)
        keys = {item.id: item.move.key for item in made.script.moves()}
        for one in self.task.candidates:
            keys |= dict.fromkeys((item.id for item in one.section.items) if one.section else (one.item.id,), one.key)
        for finding in made.open:
            named = frozenset(keys[one] for one in finding.found.items if one in keys)
            blamed = named - rules.must
            if named and not blamed:
                continue
            if len(blamed) == 1:
                never |= blamed
            else:
                apart.append(blamed or frozenset(keys.values()))
        return replace(rules, never=frozenset(never), apart=tuple(dict.fromkeys(apart)))
