"""What the journal keeps and reckons: predictions, cups, the next look, trials, whether a change helped, who ate, and one load in two places."""

from types import SimpleNamespace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.balances.holdback import hold_back
from mutabilis.core.journal.helped import helped
from mutabilis.core.journal.predicted import predicted
from mutabilis.core.journal.served import Served, eaten_by
from mutabilis.core.journal.shelf import cups, held_and_asked, learn_next
from mutabilis.core.journal.trials import by_chance, first_arm, state_of
from mutabilis.core.service.at_stove import in_the_bowl, served_by
from mutabilis.core.service.live import Happening
from mutabilis.core.service.plan import Load, Plan
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.events import Poured
from tests.conftest import COCONUT, CREPE, PLAIN, RIDGE, WAFFLE

ID = "0123456789abcdef"


def made(batter, text=RIDGE, form="griddle", id_=ID, events=()):
    return Batch(
        id=id_, version_id="v", batter_id="b", name="Cakes", number=1, plan=batter(text, form), diets=(), whom="", first_at=None, order="two_bowls", mark=0, started=0.0, events=events
    )  # fmt: skip


@pytest.mark.parametrize("text, form", [(RIDGE, "griddle"), (WAFFLE, "waffle"), (CREPE, "crepe"), (COCONUT, "griddle")])
def test_what_is_frozen_is_what_the_ledgers_say(text, form, batter, analysed, facts, profile):
    p, a = predicted(made(batter, text, form), facts, profile, "1"), analysed(text, form)
    held = hold_back(a.bowl, "scale")
    assert (p.spread_cm, p.hold_g, p.pieces) == (a.water.spread_cm, held.hold_g, a.yields.pieces) and p.pour_g + p.hold_g == pytest.approx(
        held.plan_g
    )
    assert p.cost is None and (p.turn_s is None) == (form in ("waffle", "tray")) and p.done_s > 0


def test_a_cost_is_kept_only_where_every_line_has_a_price(batter, facts, profile):
    b = made(batter)
    every = {x.ingredient: 2.0 for x in b.plan.lines if x.counts}
    whole = predicted(b, facts, profile, "1", prices=every).cost
    assert whole == pytest.approx(0.002 * sum(x.grams for x in b.plan.lines if x.counts and x.ingredient != "water"))
    assert predicted(b, facts, profile, "1", prices=dict(list(every.items())[1:])).cost is None


@pytest.mark.parametrize("text", [RIDGE, PLAIN, COCONUT])
def test_a_look_never_widens_the_doubt_and_more_looks_narrow_it(text, batter, facts, profile):
    found = learn_next(batter(text), facts, profile)
    assert found and all(x.now_g > x.after_one_g > x.after_three_g > 0 for x in found)
    assert [x.after_one_g for x in found] == sorted(x.after_one_g for x in found)  # what saves most comes first


@pytest.mark.parametrize("share, asked", [(0.0, 0.0), (0.5, 0.5), (1.0, 1.0), (3.0, 1.0)])
def test_a_cup_is_as_full_as_what_the_bowl_asked_for(share, asked, batter, facts, profile):
    p = predicted(made(batter), facts, profile, "1")
    lines = made(batter).plan.lines
    at = next(n for n, x in enumerate(lines) if x.ingredient and "milk" in x.ingredient)
    pour = Poured(id=ID, at=1.0, line=at, slot=0, grams=p.pour_g + share * p.hold_g)
    held, poured = held_and_asked(made(batter, events=(pour,)), p, facts.ingredients)
    assert held == p.hold_g and poured == pytest.approx(asked * p.hold_g)
    assert (
        held_and_asked(made(batter), p, facts.ingredients) is None is held_and_asked(made(batter, events=(pour,)), None, facts.ingredients)
    )


def test_a_bag_is_new_where_another_was_named_before_it():
    full = {"held_g": 40.04, "asked_g": 10.0}
    shelf = cups([("a", full, "lot 1"), ("b", full, ""), ("c", {}, "lot 3"), ("d", full, "lot 1"), ("e", full, "lot 2")])
    assert [(c.batch, c.held_g, c.new_bag) for c in shelf] == [
        ("a", 40.0, False),
        ("b", 40.0, False),
        ("d", 40.0, False),
        ("e", 40.0, True),
    ]


@given(st.integers(0, 12), st.integers(0, 12), st.integers(0, 12), st.integers(1, 12))
def test_one_more_clean_batch_never_speaks_against_a_change(seen, clean, since, of_since):
    since = min(since, of_since)
    now, later = helped(seen, seen + clean, since, of_since), helped(seen, seen + clean, since, of_since + 1)
    assert 0 < now.p < later.p < 1 and now.words.startswith(f"Seen in {seen} of {seen + clean}")


@given(st.text(min_size=1, max_size=20), st.lists(st.sampled_from(["1", "2", "same"]), max_size=12))
def test_a_trial_counts_arms_and_not_plates(id_, results):
    t = state_of(id_, "salt", ("as it is", "less"), 12, results)
    changed = sum(1 for n, r in enumerate(results) if r != "same" and (first_arm(id_, n) == 1) == (r == "1"))
    assert t.done == len(results) and t.over == (len(results) == 12)
    assert not results or f"“less” was better in {changed} and" in t.words
    assert by_chance(changed, 12) == by_chance(12 - changed, 12)


@given(st.lists(st.tuples(st.sampled_from(["Ada", "Bo", None]), st.sampled_from(["", "egg allergy"])), max_size=6))
def test_a_forgotten_name_is_counted_and_never_told(rows):
    served = [Served(load=0, at=0, name=n, needs=w, pieces=1) for n, w in rows]
    told, gone = eaten_by(served, "walkers"), sum(n is None for n, _ in rows)
    assert all((n in told) == any(n == m for m, _ in rows) for n in ("Ada", "Bo"))
    assert (f"{gone} guest" in told) == (gone > 0) and (rows or told == "walkers")


def test_a_load_is_the_next_of_its_batter_in_both_places():
    loads = tuple(
        Load(
            id=f"l{n}",
            batter="b",
            bowl="o",
            station="s",
            pieces=2,
            tables=("1",),
            guests={f"g{n}": 2},
            on=100 * n,
            turn=None,
            off=100 * n + 50,
            ready=100 * n + 60,
        )
        for n in (1, 2)
    )
    plan = Plan(loads=loads)
    lies = SimpleNamespace(test=False, turned=None, off=None, pieces=2)
    state = SimpleNamespace(chosen=object(), finished=None, loads=[lies])

    def tick(do, of, s=state):
        found = in_the_bowl(
            plan, Happening.model_validate({"id": "tick-0001", "at": "07:00", "kind": "done", "do": do, "of": of}), {"x": s}, 5.0
        )
        return found and found[1].kind, found and getattr(found[1], "load", None)

    assert tick("pour", "l1") == (None, None)  # it lies there already
    assert tick("pour", "l2") == ("load_on", 1) and tick("turn", "l1") == ("turned", 0) and tick("off", "l1") == ("off", 0)
    assert tick("turn", "l2") == tick("mix", "l1") == tick("pour", "zz") == (None, None)
    over = SimpleNamespace(chosen=object(), finished=9.0, loads=[SimpleNamespace(test=False, turned=1.0, off=7.0, pieces=2)])
    assert tick("pour", "l2", over) == tick("off", "l1", over) == (None, None)
    assert served_by(plan, {"x": over}) == {"x": ((0, "g1", 2, 7.0),)} and served_by(plan, {"x": state}) == {"x": ()}
