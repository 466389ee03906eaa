"""The fold: any order of events, taken back and repeated, keeps the sums; against a plain model of its own."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.events import EVENT, Undone
from mutabilis.core.stove.fold import fold, in_bowl, standing, will_be
from mutabilis.data import load_facts
from tests.conftest import RIDGE
from tests.sizes import many

from .making import event, poured_all

FACTS = load_facts()
PLAN = Batter(lines=read_lines(RIDGE, FACTS, Profile()))
LINES = st.integers(0, len(PLAN.lines) - 1)
IDS = st.integers(0, 40).map(lambda n: f"{n:016x}")
TIMES = st.floats(0, 1e6)
GRAMS = st.floats(-50, 400)
ANY = st.one_of(
    st.builds(lambda i, t, k, s, g, d: event("poured", t, i, line=k, slot=s, grams=g, done=d), IDS, TIMES, st.integers(0, 12), st.integers(0, 3), GRAMS, st.booleans()),
    st.builds(lambda i, t, x: event("undone", t, i, event=x), IDS, TIMES, IDS),
    st.builds(lambda i, t, k: event("none_left", t, i, line=k), IDS, TIMES, LINES),
    st.builds(lambda i, t, k: event("prep_started", t, i, key=k), IDS, TIMES, st.sampled_from(["melt", "soak"])),
    st.builds(lambda i, t, k: event("prep_done", t, i, key=k), IDS, TIMES, st.sampled_from(["melt", "soak"])),
    st.builds(lambda i, t, n, p: event("load_on", t, i, load=n, pieces=p), IDS, TIMES, st.integers(0, 3), st.integers(0, 12)),
    st.builds(lambda i, t, n: event("turned", t, i, load=n), IDS, TIMES, st.integers(0, 3)),
    st.builds(lambda i, t, n, p: event("off", t, i, load=n, good=p), IDS, TIMES, st.integers(0, 3), st.integers(0, 40)),
    st.builds(lambda i, t: event("finished", t, i), IDS, TIMES),
    st.builds(
        lambda i, t, k, g, b: event("retargeted", t, i, targets=[{"line": k, "ingredient": PLAN.lines[k].ingredient, "grams": g}], because=b),
        IDS, TIMES, LINES, st.floats(0, 500), st.none() | IDS,
    ),
)  # fmt: skip


@settings(max_examples=many(150))
@given(st.lists(ANY, max_size=40))
def test_any_events_in_any_order_give_a_state_that_makes_sense(events):
    state = fold(PLAN, events)
    assert all(x.poured >= 0 and x.target >= 0 for x in state.lines) and state.bowl_g == pytest.approx(sum(x.poured for x in state.lines))
    assert all(x.off is None or (x.off >= (x.turned or x.on) and 0 <= x.good <= x.pieces) for x in state.loads)
    assert all(p.done is None or p.started is None or p.done >= p.started for p in state.prep.values())
    assert state.made <= sum(x.pieces for x in state.loads)
    assert fold(PLAN, [EVENT.validate_json(e.model_dump_json()) for e in events]) == state  # what was stored is what happened


@settings(max_examples=many(80))
@given(st.lists(ANY, max_size=25), st.randoms(use_true_random=False))
def test_what_is_sent_twice_counts_once(events, dice):
    seen = {e.id: e for e in reversed(events)}
    again = [*events, *(seen[e.id] for e in dice.sample(events, len(events) // 2))]
    assert _told(fold(PLAN, again)) == _told(fold(PLAN, events))


@settings(max_examples=many(80))
@given(st.lists(ANY, max_size=25), st.integers(0, 24))
def test_taking_back_and_letting_stand_again_changes_nothing(events, at):
    unique = list({e.id: e for e in events}.values())
    if not unique:
        return
    target = unique[at % len(unique)]
    before = standing(unique)
    gone = event("undone", event=target.id)
    assert target not in standing([*unique, gone]) or isinstance(target, Undone)
    assert standing([*unique, gone, event("undone", event=gone.id)]) == before


def _told(state):
    return (state.lines, state.loads, state.prep, state.finished, state.bowl_g)


def test_two_screens_that_confirm_one_pour_count_it_once():
    one, two = (event("poured", line=0, slot=0, grams=160) for _ in range(2))
    state = fold(PLAN, [one, two])
    assert state.lines[0].poured == 160 and state.lines[0].slot == 1
    # Not even when the one that counted is taken back does the copy count in its place.
    assert fold(PLAN, [one, two, event("undone", event=one.id)]).lines[0].poured == 0
    assert fold(PLAN, [one, event("poured", line=0, slot=1, grams=5)]).lines[0].poured == 165
    assert fold(PLAN, [one, two]).last == one.id  # the copy, which did nothing, is nothing to take back


def test_a_slot_named_out_of_turn_stops_nothing():
    far = event("poured", line=0, slot=9999, grams=10)
    state = fold(PLAN, [far])
    assert state.lines[0].slot == 0
    assert fold(PLAN, [far, event("poured", line=0, slot=0, grams=7)]).lines[0].poured == 17


def test_what_followed_from_a_pour_falls_with_it():
    eggs = event("poured", line=4, slot=0, grams=120)
    follow = event("retargeted", targets=[{"line": 2, "ingredient": "whole_milk", "grams": 250}], because=eggs.id)
    assert fold(PLAN, [eggs, follow]).lines[2].target == 250
    state = fold(PLAN, [eggs, follow, event("undone", event=eggs.id)])
    assert state.lines[2].target == PLAN.lines[2].grams and state.lines[4].poured == 0


def test_undo_and_redo_point_at_the_last_touch():
    a, b = event("poured", line=0, slot=0, grams=10), event("poured", line=1, slot=0, grams=10)
    assert fold(PLAN, [a, b]).last == b.id and fold(PLAN, [a, b]).redo is None
    back = event("undone", event=b.id)
    undone = fold(PLAN, [a, b, back])
    assert undone.last == a.id and undone.redo == back.id
    again = fold(PLAN, [a, b, back, event("undone", event=back.id)])
    assert again.last == b.id and again.redo is None


def test_a_judgement_keeps_what_was_in_the_bowl_then():
    events = [*poured_all(PLAN, FACTS), event("judged", way="spread", value=11), event("poured", line=2, slot=1, grams=30)]
    state = fold(PLAN, events)
    assert state.judged[0].poured[2] == PLAN.lines[2].grams and state.lines[2].poured == PLAN.lines[2].grams + 30


def test_the_batter_follows_the_bowl():
    held = event("poured", line=2, slot=0, grams=200, held=True)
    state = fold(PLAN, [event("poured", line=0, slot=0, grams=170), held, event("none_left", line=8)])
    now, then = in_bowl(PLAN, state, FACTS.ingredients), will_be(PLAN, state, FACTS.ingredients)
    assert now.lines[0].grams == 170 and now.lines[1].grams == 0 and now.lines[2].grams == 200
    assert then.lines[0].grams == 170 and then.lines[1].grams == PLAN.lines[1].grams and then.lines[2].grams == PLAN.lines[2].grams
    assert then.lines[8].grams == 0 and 0 < now.lines[0].high - now.lines[0].low < 5


class ABatch(RuleBasedStateMachine):
    """Pours, loads and takings back against a model of plain lists: the log holds everything, the model only what stands."""

    @initialize()
    def begin(self):
        self.log, self.model, self.undone = [], [], []
        self.dice = random.Random(7)

    def add(self, e):
        self.log.append(e)
        self.model.append(e)
        self.undone.clear()

    @rule(line=LINES, grams=st.floats(0.5, 300))
    def pour(self, line, grams):
        slot = sum(1 for e in self.log if e.kind == "poured" and e.line == line)
        self.add(event("poured", line=line, slot=slot, grams=grams, done=self.dice.random() < 0.8))

    @rule(pieces=st.integers(1, 12))
    def load(self, pieces):
        n = sum(1 for e in self.log if e.kind == "load_on")
        self.add(event("load_on", load=n, pieces=pieces))

    @precondition(lambda self: any(e.kind == "load_on" for e in self.model))
    @rule(good=st.integers(0, 12))
    def off(self, good):
        on = [e for e in self.model if e.kind == "load_on"]
        self.add(event("off", load=self.dice.choice(on).load, good=good))

    @precondition(lambda self: self.model)
    @rule()
    def take_back(self):
        e = self.model.pop()
        back = event("undone", event=e.id)
        self.log.append(back)
        self.undone.append((back, e))

    @precondition(lambda self: self.undone)
    @rule()
    def again(self):
        back, e = self.undone.pop()
        self.log.append(event("undone", event=back.id))
        self.model.append(e)

    @precondition(lambda self: self.log)
    @rule()
    def sent_again(self):
        self.log.append(self.dice.choice(self.log))

    @invariant()
    def the_sums_are_kept(self):
        state = fold(PLAN, self.log)
        for at in range(len(PLAN.lines)):
            assert state.lines[at].poured == pytest.approx(sum(e.grams for e in self.model if e.kind == "poured" and e.line == at))
        on = {e.load: e.pieces for e in self.model if e.kind == "load_on"}
        off: dict[int, int] = {}
        for e in self.model:
            if e.kind == "off":
                off.setdefault(e.load, min(e.good, on[e.load]))
        assert state.made == sum(off.values()) and state.laid == sum(on.values())
        assert state.last == (self.model[-1].id if self.model else None)


TestABatch = ABatch.TestCase
TestABatch.settings = settings(max_examples=many(20), stateful_step_count=30, deadline=None)
