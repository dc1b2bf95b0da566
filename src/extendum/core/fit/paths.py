"""Every way that a class can be cut: which of the optional items stay, and what each step then meets.

A step's transition depends on the step before it, so the ways are a graph: its places say where bodies
and props are. In a group that repeats, or does a chain side by side, a pass also meets what ends the
round or the other side; there the graph has one branch per possible end. What words say of the other
moves (how many, which is next, what is needed) is fixed at the start of a branch and checked at its end.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations
from typing import NamedTuple

from extendum.core.fit.counted import MayGo, Tallied, Tally, World, worlds
from extendum.core.fit.graph import Edge, Graph, Node
from extendum.core.fit.item_options import OF_THOSE_TO_COME, Context, Offer, Offers
from extendum.core.fit.lane_steps import LaneSteps
from extendum.core.fit.lanes import Before, Places, came_true
from extendum.core.model.item import Item, MoveItem, is_out
from extendum.core.model.script import Script
from extendum.core.model.section import Group, SidePlan
from extendum.core.model.talk import Talk
from extendum.core.timing.durations import Facts
from extendum.core.timing.facts import AFTER_THE_LAST, facts_along, talk_least_s
from extendum.core.timing.layout import start_situation
from extendum.core.timing.sequence import Pass, Step, all_rounds, one_round

#: Where every set of items has to be tried, so many may go; of more, those that cost least to leave out.
MOST_TRIED = 8


class Place(NamedTuple):
    """What the rest of the class depends on: where bodies and props are, the tally, and the move promised as next."""

    lanes: tuple[Before, ...]
    tallied: Tallied
    promised: str | None = None


class Paths:
    """Builds the graph of a script."""

    def __init__(
        self,
        script: Script,
        minutes: int,
        may_go: MayGo,
        tally: Tally,
        drop_costs: Mapping[str, int] | None = None,
    ) -> None:
        self._script, self._may_go, self._tally = script, may_go, tally
        self._minutes = str(minutes)
        self._lead = script.style.lead_side
        self._places = Places()
        self._nodes: list[Node] = []
        self._rank = 0
        self._courses: dict[str, LaneSteps] = {}
        self._made: dict[object, Offer] = {}
        self._groups = [
            (group, tuple(item for item in group.items if not is_out(item)))
            for section in script.sections
            for group in section.groups
        ]
        self._rounds = {group.id: list(one_round(group, self._lead, items)) for group, items in self._groups}
        rounds, style = list(self._rounds.values()), script.style
        may_stay = [item for _, items in self._groups for item in items if isinstance(item, MoveItem)]
        least_s = {
            item.id: talk_least_s(item, may_stay, minutes, style, group.rounds)
            for group, items in self._groups
            for item in items
            if isinstance(item, Talk)
        }
        self._offers = Offers(style, script.brief.priority, self._places, rounds, least_s, drop_costs)
        moves = (step.item for steps in rounds for step in steps if isinstance(step, Pass))
        #: The moves in the order in which the class comes to them, whichever of them stay.
        self._moves = list({item.id: item for item in moves}.values())

    def graph(self) -> Graph:
        """The graph of all ways."""
        root, end = self._at(0), Node(1 << 30)
        every = [item for _, items in self._groups for item in items]
        for world in worlds(every, self._may_go, self._tally):
            start = self._at(1)
            self._rank = 2
            root.edges.append(Edge(start))
            before = self._places.key(start_situation(self._script))
            here = {Place((Before(before),), self._tally.start): start}
            for group, items in self._groups:
                here = self._group(group, items, here, world)
            for place, node in here.items():
                told = place.promised in (None, "") and self._tally.facts(place.tallied) == world.tallied
                if told and self._tally.accepts(place.tallied):
                    node.edges.append(Edge(end))
        return Graph(root, self._nodes, end)

    def _facts(self, world: World, group: Group) -> Facts:
        """What words may say in a group of what is the same all along it."""
        moves, rounds = str(world.moves), str(group.rounds)
        return {"minutes": self._minutes, "moves": moves, "needs": world.needs, "rounds": rounds}

    def _next_of(self, item: Item) -> list[str]:
        """The moves that may be next after one; "" where there may be none."""
        order = self._moves
        at = next(n for n, one in enumerate(order) if one.id == item.id) + 1
        return self._next_from(at)

    def _next_after(self, items: tuple[Item, ...]) -> list[str]:
        """The moves that may be next after all of these."""
        own = {item.id for item in items}
        return self._next_from(max((n for n, one in enumerate(self._moves, 1) if one.id in own), default=0))

    def _next_from(self, at: int) -> list[str]:
        found = []
        for one in self._moves[at:]:
            found.append(one.id)
            if not self._may_go(one):
                return found
        return [*found, ""]

    def _name(self, move_id: str) -> str:
        return next((one.name for one in self._moves if one.id == move_id), AFTER_THE_LAST)

    # ---- groups ---------------------------------------------------------------------------------

    def _group(self, group: Group, items: tuple[Item, ...], here: dict[Place, Node], world: World) -> dict[Place, Node]:
        """The places after a group, from those before it."""
        if not items:
            return here
        going = [item for item in items if self._may_go(item)]
        repeats = group.rounds > 1 or group.side_plan is not SidePlan.EACH_MOVE
        speaks = any(OF_THOSE_TO_COME.intersection(self._offers.said(item)) for item in items)
        promised = group.side_plan is SidePlan.CHAIN and any(place.promised is not None for place in here)
        exits: dict[Place, Node] = {}
        base, self._rank = self._rank, self._rank + len(items) + 2
        exit_rank = self._rank
        if not going or group.side_plan is SidePlan.INTERLEAVED or (repeats and speaks) or promised:
            for kept in self._subsets(group, items, going):
                ids = {item.id for item in kept}
                steps = all_rounds(group, [step for step in self._rounds[group.id] if step.item.id in ids])
                for place, node in here.items():
                    self._fixed(group, items, steps, place, node, world, base, exits)
        else:
            for guess_from, nodes in _by_entry(here).items():
                self._laned(group, items, guess_from, nodes, world, base, exits)
        self._rank = exit_rank + 1
        return exits

    def _exit(self, place: Place, exits: dict[Place, Node]) -> Node:
        if place not in exits:
            exits[place] = self._at(self._rank)
        return exits[place]

    def _at(self, rank: int) -> Node:
        node = Node(rank)
        self._nodes.append(node)
        return node

    def _subsets(self, group: Group, items: tuple[Item, ...], going: list[Item]) -> Iterator[tuple[Item, ...]]:
        if len(going) > MOST_TRIED:
            going = sorted(going, key=self._offers.dropping)[:MOST_TRIED]
        for size in range(len(going) + 1):
            for out in combinations([item.id for item in going], size):
                yield tuple(item for item in items if item.id not in out)

    # ---- a group of which these items stay --------------------------------------------------------

    def _fixed(
        self,
        group: Group,
        items: tuple[Item, ...],
        steps: list[Step],
        place: Place,
        node: Node,
        world: World,
        base: int,
        exits: dict[Place, Node],
    ) -> None:
        """One path through a group of which the items of these steps stay; everything that they meet is known."""
        kept = {step.item.id for step in steps}
        tallied = self._tallied(place.tallied, [item for item in items if item.id in kept])
        first = next((step.item.id for step in steps if isinstance(step, Pass)), None)
        broken = first is not None and place.promised not in (None, first)
        if tallied is None or broken:
            return
        said = {name for item in items if item.id in kept for name in self._offers.said(item)}
        speaks, shared = "next" in said, self._facts(world, group)
        promised = place.promised if first is None else None
        for coming in self._next_after(items) if speaks else [promised]:
            name = self._name(coming or "") if speaks else AFTER_THE_LAST
            left = world.moves - tallied.moves
            facts = facts_along(steps, shared, name, left) if said & OF_THOSE_TO_COME else [shared] * len(steps)
            of_item, where = self._met(steps, facts, place.lanes[0].at)
            exit_place = Place((Before(where),), tallied, coming)
            at = node
            for n, item in enumerate(items, 1):
                to = self._exit(exit_place, exits) if n == len(items) else self._at(base + n)
                if item.id in kept:
                    at.edges.append(Edge(to, item, self._offers.of(item, of_item[item.id])))
                else:
                    at.edges.append(Edge(to, item, cost=self._offers.dropping(item)))
                at = to

    def _tallied(self, tallied: Tallied, items: list[Item]) -> Tallied | None:
        """The tally after items that stay; None where one of them must not."""
        for item in items:
            after = self._tally.after(tallied, item)
            if after is None:
                return None
            tallied = after
        return tallied

    def _met(self, steps: list[Step], facts: Sequence[Facts], where: int) -> tuple[dict[str, list[Context]], int]:
        """What each item meets in these steps, by its id, and where they end."""
        found: dict[str, list[Context]] = {}
        for step, told in zip(steps, facts, strict=True):
            found.setdefault(step.item.id, []).append(Context(step, where, told, (step.round,)))
            where = self._places.after(step, where)
        return found, where

    # ---- a group of which any items may go ----------------------------------------------------------

    def _laned(
        self,
        group: Group,
        items: tuple[Item, ...],
        entry: int,
        nodes: dict[Place, Node],
        world: World,
        base: int,
        exits: dict[Place, Node],
    ) -> None:
        """All ways through a group at once: places of each lane, for every guess of where lanes begin."""
        if group.id not in self._courses:
            self._courses[group.id] = LaneSteps(group, items, self._lead, self._places)
        course = self._courses[group.id]
        for guess in course.guesses(entry, self._may_go):
            here: dict[Place, Node] = {}
            for place, node in nodes.items():
                inside = Place(guess, place.tallied, place.promised)
                here[inside] = self._at(base)
                node.edges.append(Edge(here[inside]))
            for n, item in enumerate(items):
                here = self._item(group, course, item, here, world, base + n + 1)
            for place, node in here.items():
                if came_true(course.lanes, guess, place.lanes):
                    end = Before(place.lanes[-1].at)
                    to = self._exit(Place((end,), place.tallied, place.promised), exits)
                    node.edges.append(Edge(to))

    def _item(
        self, group: Group, course: LaneSteps, item: Item, here: dict[Place, Node], world: World, rank: int
    ) -> dict[Place, Node]:
        """The places after an item, kept or left out."""
        found: dict[Place, Node] = {}

        def reach(place: Place) -> Node:
            if place not in found:
                found[place] = self._at(rank)
            return found[place]

        is_move, said, facts = isinstance(item, MoveItem), self._offers.said(item), self._facts(world, group)
        for place, node in here.items():
            if self._may_go(item):
                node.edges.append(Edge(reach(place), item, cost=self._offers.dropping(item)))
            tallied = self._tally.after(place.tallied, item)
            if tallied is None or (is_move and place.promised not in (None, item.id)):
                continue
            after, meets = course.past(item, place.lanes), course.meets(item, place.lanes)
            held = None if is_move else place.promised
            for coming in self._next_of(item) if "next" in said else [held]:
                told = facts
                if said:
                    left = str(world.moves - tallied.moves)
                    told = {**facts, "next": self._name(coming or ""), "moves_left": left}
                key = item.id, meets, tuple(told[name] for name in said)
                if key not in self._made:
                    self._made[key] = self._offers.of(item, course.contexts(item, meets, told))
                offer = self._made[key]
                to = reach(Place(after, tallied, coming))
                node.edges.append(Edge(to, item, offer))
        return found


def _by_entry(here: dict[Place, Node]) -> dict[int, dict[Place, Node]]:
    """Places that begin alike, together: they share their guesses."""
    found: dict[int, dict[Place, Node]] = {}
    for place, node in here.items():
        found.setdefault(place.lanes[0].at, {})[place] = node
    return found
