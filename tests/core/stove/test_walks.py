"""Whole batches by cooks of every kind: a random walk over what the guide offers, on every demo batter; and a kitchen that learns."""

import random
import statistics

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mutabilis.core.balances.holdback import hold_back
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import drinking_minutes, fill
from mutabilis.core.diets.verdicts import worst
from mutabilis.core.food.learning import known, with_thirst
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.recent import Recent
from mutabilis.core.stove.events import STAGES
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.judging import Belief
from mutabilis.core.stove.mending import Mender
from mutabilis.data import load_facts
from mutabilis.demo import demo_batters
from tests.conftest import COCONUT, RIDGE
from tests.sizes import many

from .making import batch, event, poured_all

FACTS, PROFILE = load_facts(), Profile()
DEMO = {name: version.batter for name, version in demo_batters(FACTS)}
RECENT = Recent(3)  # one memory for all these batches, as a server has it
DIETS = ("vegan", "gluten_free", "egg_free", "low_carb")


class Cook:
    """A cook who does, at each turn, something that the screen offers."""

    def __init__(self, plan, seed, diets=DIETS):
        self.dice, self.plan, self.diets = random.Random(seed), plan, diets
        self.events, self.now = [], 10_000.0
        self.look()

    def look(self):
        self.guide = self.seen(RECENT)

    def seen(self, recent=None):
        return Guide(batch(self.plan, *self.events, diets=self.diets), self.now, FACTS, PROFILE, recent=recent)

    def say(self, kind, **more):
        self.now += self.dice.choice([1, 7, 40, 200])
        self.events.append(event(kind, self.now, **more))
        self.look()

    def turn(self):
        g, s, dice = self.guide, self.guide.state, self.dice
        can = [lambda: self.say("went", stage=dice.choice(STAGES)), lambda: self.say("scale_used", on=dice.random() < 0.6)]
        if g.current is not None:
            can += [self.pour] * 6 + [self.none_left]
            if g.current.over > 0:
                can = [self.mend]
        can += [
            lambda p=p: self.say("prep_started" if p.started is None else "prep_done", key=p.key) for p in g.preparations if p.done is None
        ]
        can += [
            lambda m=m: self.say("step_done", key=m.key, wets=m.wets, leavens=m.leavens)
            for m in (*g.mixing, *g.last_steps)
            if m.done is None
        ]
        can.append(
            lambda: self.say(
                "judged",
                way=dice.choice(g.judging.ways),
                value=dice.choice([-1, 0, 1]) if g.judging.ways == ("eye",) else dice.uniform(9, 15),
            )
        )
        if g.judging.advice is not None and g.judging.advice.add_g > 0:
            can.append(self.add)
        if s.chosen is None:
            can.append(self.choose)
        else:
            can += [self.load] * 4
        if s.last is not None:
            can.append(lambda: self.say("undone", event=s.last))
        if s.redo is not None:
            can.append(lambda: self.say("undone", event=s.redo))
        dice.choice(can)()

    def pour(self):
        x = self.guide.current
        factor = self.dice.choice([1, 1, 1, 1.02, 0.4, 1.6])
        grams = x.missing * factor
        whole = factor != 0.4
        self.say(
            "poured", line=x.at, part=x.part, closes=whole, slot=x.slot, grams=grams, gross=grams, by=x.by, done=whole and x.last, held=whole and x.last and x.holds
        )  # fmt: skip

    def mend(self):
        x = self.guide.current
        offers = Mender(self.plan, self.guide.state, FACTS, PROFILE).over(x.at)
        offer = self.dice.choice(offers)
        self.say("step_done", key=f"over_{x.at}_{x.slot}")
        if offer.targets:
            self.say("retargeted", targets=[t.model_dump() for t in offer.targets])

    def none_left(self):
        self.say("none_left", line=self.guide.current.at)

    def add(self):
        j = self.guide.judging
        at = j.flour_line if j.advice.thicker else j.held_line
        line = next((x for x in self.guide.lines if x.at == at), None)
        if line is not None:
            self.say("poured", line=line.at, slot=line.slot, grams=j.advice.add_g, by="measure")

    def choose(self):
        surface = self.dice.choice(self.guide.surfaces)
        piece = self.guide.piece(surface)
        self.say(
            "surface_chosen", surface=surface.model_dump(), celsius=surface.usual_c + self.dice.choice([-20, 0, 20]), portion_ml=min(5000, max(5, piece.portion_ml)),
            grease=self.dice.choice(["none", "film", "generous"]), fat="butter", per_load=min(200, piece.per_load),
        )  # fmt: skip

    def load(self):
        s, run = self.guide.state, self.guide.run
        on = [x for x in s.loads if x.off is None]
        if on:
            x = self.dice.choice(on)
            if x.turned is None and self.dice.random() < 0.6:
                self.say("turned", load=x.n)
            else:
                self.say("off", load=x.n, good=self.dice.randint(0, x.pieces))
        elif s.loads and s.loads[-1].test and s.loads[-1].colour is None:
            self.say(
                "test_judged",
                load=s.loads[-1].n,
                colour=self.dice.choice(["pale", "golden", "dark", "burnt"]),
                inside=self.dice.choice(["raw", "just", "dry"]),
            )
        else:
            self.say("load_on", load=run.next_load, pieces=self.dice.randint(1, s.chosen.per_load), test=self.dice.random() < 0.3)


@settings(max_examples=many(8))
@given(st.sampled_from(sorted(DEMO)), st.integers(0, 10_000))
def test_whatever_a_cook_does_the_guide_goes_on_and_stays_true(name, seed):
    cook = Cook(DEMO[name], seed)
    for _ in range(35):
        cook.turn()
        g = cook.guide
        s = g.state
        # What was worked out a moment ago is this batch's own, at this moment.
        alone = cook.seen()
        assert (g.lines, g.mixing, g.to_be.ledgers, g.to_be.plate) == (alone.lines, alone.mixing, alone.to_be.ledgers, alone.to_be.plate)
        # What is in the bowl is what was poured and not taken back; what will be is never less.
        assert s.bowl_g == pytest.approx(sum(x.poured for x in s.lines)) and g.to_be.batter_g >= s.bowl_g - 1e-6
        # Every clock that runs was begun before now, and none is due before it was begun.
        assert all(t.started <= t.due and t.started <= g.now for t in g.timers)
        # A line is asked for only while something of it is missing, and never by a scale that cannot show it.
        if g.current is not None and g.current.over == 0:
            assert not g.current.settled and (g.current.by != "scale" or g.current.missing >= 0)
        assert all(x.tolerance > 0 and x.missing >= 0 and x.held >= 0 for x in g.lines)
        # The verdict on the batch is never better than the worst of what is in the bowl.
        for key in DIETS:
            inside = worst(r.verdict for r in g.to_be.diets[key].reasons) if g.to_be.diets[key].reasons else "fits"
            assert worst((g.to_be.plate.diets[key].verdict, inside)) == g.to_be.plate.diets[key].verdict
        if g.run is not None:
            assert g.run.made <= g.run.laid <= sum(x.pieces for x in s.loads) and g.run.left_g >= 0 and g.run.last_plate >= g.now
        advice = g.judging.advice
        if advice is not None:
            assert advice.add_g >= 0 and advice.drank > 0 and (advice.ingredient is None) == (advice.add_g == 0)
        for x in g.lessons:
            assert x.after_sd <= x.before_sd + 1e-9


def test_a_kitchen_that_judges_its_bowls_comes_to_know_its_flour():
    """A coconut flour that drinks 15 % more than the table: batch after batch the belief closes in, less is held back, and the first guess is nearer."""
    plan = Batter(lines=read_lines(COCONUT, FACTS, PROFILE))
    true, facts, learned = 1.15, FACTS, {}
    dice = random.Random(4)
    held, off, believed = [], [], []
    for _ in range(8):
        bowl = fill(plan, facts)
        held.append(hold_back(bowl, "scale").hold_g)
        table = fill(plan, FACTS)
        thirst = tuple(true if p.ingredient.id == "coconut_flour" else 1.0 for p in table.portions)
        spread = Belief(portions=table.portions, amounts=tuple(p.grams for p in table.portions), thirst=thirst, offset=0.0).spread(
            drinking_minutes(9.0, 1.0, False)
        )
        events = [
            *poured_all(plan, FACTS), event("step_done", 1000.0, key="together", wets=True, leavens=True),
            event("judged", 1000.0 + 9 * 60, way="spread", value=max(4.0, spread + dice.gauss(0, 0.35))),
        ]  # fmt: skip
        g = Guide(batch(plan, *events), 2000.0, facts, PROFILE, learned={"absorption": learned})
        off.append(abs(g.judging.advice.seen_cm - g.judging.advice.expected_cm))
        learned = {**learned, **known(g.lessons, "absorption")}
        believed.append(learned["coconut_flour"])
        facts = FACTS.with_weights(with_thirst(FACTS.ingredients, learned))
        assert believed[-1].mean == pytest.approx(
            g.facts.ingredients["coconut_flour"].absorption_g_per_g / FACTS.ingredients["coconut_flour"].absorption_g_per_g, abs=0.2
        )
    assert abs(believed[-1].mean - true) < 0.05 < abs(1 - true) and believed[-1].sd < 0.5 * believed[0].sd + 0.02
    assert held[-1] < 0.7 * held[0]
    assert statistics.mean(off[-3:]) < 0.6 * off[0]


def test_one_wrong_ruler_does_not_undo_what_was_learned():
    """After several good looks, one that is far off moves the belief by less than it would have at the start."""
    plan = Batter(lines=read_lines(RIDGE, FACTS, PROFILE))

    def told(facts, learned, value):
        events = [
            *poured_all(plan, FACTS),
            event("step_done", 1000.0, key="together", wets=True),
            event("judged", 1600.0, way="spread", value=value),
        ]
        lessons = Guide(batch(plan, *events), 2000.0, facts, PROFILE, learned={"absorption": learned}).lessons
        return {**learned, **known(lessons, "absorption")}

    fresh = told(FACTS, {}, 10.4)["all_purpose_flour"].mean - 1
    learned, facts = {}, FACTS
    for _ in range(6):
        learned = told(facts, learned, 11.4)
        facts = FACTS.with_weights(with_thirst(FACTS.ingredients, learned))
    before = learned["all_purpose_flour"].mean
    late = told(facts, learned, 10.4)["all_purpose_flour"].mean - before
    assert 0 < late < 0.8 * fresh
    assert told(FACTS, {}, 7.0) == {}  # a line was left out: that says nothing of the flour
