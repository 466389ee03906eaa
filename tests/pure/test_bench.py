"""The bench as a state: every edit is one step back, whatever came before it; an answer goes when what was asked changes."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many

LINE = {"text": "200 g flour", "ingredient": "flour", "grams": 200, "low": 200, "high": 200, "note": "", "problem": ""}
BASE = {"lines": [LINE, {**LINE, "text": "1 egg", "ingredient": "egg", "grams": 50}], "form": "griddle"}
VERSION = {"batter_id": "b1", "id": "v1", "name": "Ridge cakes", "batter": BASE, "diets": []}
ACTS = st.one_of(
    st.builds(lambda f: {"type": "form", "form": f}, st.sampled_from(["griddle", "waffle", "crepe"])),
    st.builds(lambda n, g: {"type": "baseGrams", "line": n, "grams": g, "name": "flour"}, st.integers(0, 1), st.integers(1, 900)),
    st.just({"type": "addLines", "lines": [LINE]}),
    st.builds(lambda n: {"type": "replaceLine", "line": n, "lines": []}, st.integers(0, 3)),
    st.builds(lambda d: {"type": "toggleDiet", "diet": d}, st.sampled_from(["vegan", "egg_free"])),
    st.builds(lambda n: {"type": "servings", "servings": n}, st.integers(1, 60)),
    st.builds(lambda i: {"type": "toggleBan", "id": i}, st.sampled_from(["egg", "flax"])),
    st.builds(lambda i: {"type": "togglePin", "id": i}, st.sampled_from(["egg", "flax"])),
    st.builds(lambda i, g: {"type": "lock", "id": i, "grams": g}, st.sampled_from(["egg", "flax"]), st.sampled_from([None, 30, 60])),
    st.builds(lambda n: {"type": "choose", "answer": n}, st.integers(0, 4)),
    st.builds(lambda i, g: {"type": "madeGrams", "ingredient": i, "grams": g}, st.sampled_from(["flour", "egg"]), st.integers(1, 900)),
    st.just({"type": "swap", "from": "egg", "to": {"id": "flax", "name": "flax", "grams": 20}}),
    st.just({"type": "rebalance"}), st.just({"type": "dropEdits"}), st.just({"type": "clear"}),
    st.just({"type": "lay", "name": "New", "batter": BASE}),
)  # fmt: skip
RUN = """
  let h = p.history(p.opened(b));
  const told = [];
  let at = 0;
  for (const m of a) {
    at += 5000;
    h = p.move(h, m === "undo" || m === "redo" ? { type: m } : { type: "do", act: m, at });
    told.push([h.now, h.past.length, h.future.length]);
  }
  return told;
"""


def bare(state):
    return {k: v for k, v in state.items() if k != "touched"}


@given(st.lists(st.one_of(ACTS, st.just("undo"), st.just("redo")), max_size=25))
@settings(max_examples=many(60), deadline=None)
def test_undo_and_redo_walk_one_line_of_states(pure, moves):
    """Against a list and a place in it: the plainest model of a history there is."""
    opened = pure("p.opened(a)", VERSION)
    line, at = [opened], 0
    for move, (now, undoes, redoes) in zip(moves, pure(RUN, moves, VERSION), strict=True):
        if move == "undo":
            at = max(0, at - 1)
        elif move == "redo":
            at = min(len(line) - 1, at + 1)
        else:
            line, at = [*line[: at + 1], now], at + 1
        assert bare(now) == bare(line[at]) and (undoes, redoes) == (at, len(line) - 1 - at)
        if now["wish"] != line[at - 1]["wish"] if at and move not in ("undo", "redo") else False:
            assert now["made"] == now["swaps"] == {} and now["chosen"] == 0  # what was asked has changed
        assert not set(now["wish"]["pins"]) & set(now["wish"]["bans"]) or move != {"type": "toggleBan", "id": "egg"}


def test_keys_in_one_field_are_one_edit_and_a_pause_or_another_field_ends_it(pure):
    def undoes(*typed):
        code = "{ let h = p.history(p.opened(a)); for (const [act, at] of b) h = p.move(h, { type: 'do', act, at }); return h.past.length }"
        return pure(code, VERSION, [[{"type": "madeGrams", "ingredient": i, "grams": g}, at] for i, g, at in typed])

    assert undoes(("egg", 1, 0), ("egg", 12, 400), ("egg", 120, 1500)) == 1
    assert undoes(("egg", 1, 0), ("egg", 12, 1300)) == 2
    assert undoes(("egg", 1, 0), ("flour", 2, 100), ("egg", 3, 200)) == 3


def test_rebalance_keeps_what_was_set_by_hand_and_leaves_out_what_was_swapped(pure):
    acts = [
        {"type": "lock", "id": "egg", "grams": 50},
        {"type": "madeGrams", "ingredient": "flour", "grams": 180},
        {"type": "swap", "from": "egg", "to": {"id": "flax", "name": "flax", "grams": 20}},
        {"type": "madeGrams", "ingredient": "flax", "grams": 24},
        {"type": "rebalance"},
    ]
    now = pure(RUN, acts, VERSION)[-1][0]
    assert now["wish"]["locked"] == {"flour": 180, "flax": 24} and now["wish"]["bans"] == ["egg"]
    assert now["made"] == now["swaps"] == {}


def test_a_swap_and_a_typed_amount_lie_over_the_answer_and_leave_it_whole(pure):
    before = json.dumps(BASE)
    made, untouched, plain = pure(
        "{ const m = p.madeBatter(a, { flax: 24 }, { egg: { id: 'flax', name: 'ground flax', grams: 20 } }); return [m, a, p.madeBatter(a, {}, {})] }",
        BASE,
    )
    assert made["lines"][1] == {
        **BASE["lines"][1], "ingredient": "flax", "grams": 24, "low": 24, "high": 24, "text": "20 g ground flax", "states": [], "confidence": "medium",
    }  # fmt: skip
    assert json.dumps(untouched) == before and plain is None


def test_a_draft_opens_as_it_was_left_without_what_is_no_longer_there(pure):
    start = {
        "draft": {"base": BASE, "diets": ["vegan", "gone"], "made": {"egg": 4}, "wish": {"flow": "thinner"}},
        "version": None,
        "diets": [],
    }
    found = pure("p.fromStart(a)", {**start, "known_diets": [{"key": "vegan"}]})
    assert (
        found["diets"] == ["vegan"]
        and found["made"] == {"egg": 4}
        and found["wish"]["flow"] == "thinner"
        and found["wish"]["eggs"] == "as_is"
    )
    for broken in (None, {}, {"base": {}}, {"base": {"lines": 3}, "diets": "x"}):
        found = pure("p.fromStart(a)", {**start, "draft": broken, "version": VERSION, "known_diets": []})
        assert found["versionId"] == "v1"


@pytest.mark.parametrize(("diets", "wish", "asked"), [([], {}, False), (["vegan"], {}, True), ([], {"flow": "thinner"}, True)])
def test_only_what_is_wished_is_asked(pure, diets, wish, asked):
    found = pure("p.wantedOf({ base: a, diets: b, wish: { ...p.NO_WISH, ...c, maxCost: 2, larderOnly: true } })", BASE, diets, wish)
    assert found["asked"] and found["wanted"]["wishes"]["max_cost"] == 2 and found["wanted"]["larder_only"] is True
    assert "maxCost" not in found["wanted"]["wishes"]
    assert pure("p.wantedOf({ base: a, diets: b, wish: { ...p.NO_WISH, ...c } }).asked", BASE, diets, wish) is asked
    assert pure("p.wantedOf({ base: { ...a, lines: [] }, diets: ['vegan'], wish: p.NO_WISH }).asked", BASE) is False


def test_a_draft_is_sent_back_only_once_it_was_changed(pure):
    """Sent back as it came, it would outlive a draft that is just being cleared."""
    start = {"draft": {"base": BASE, "diets": ["vegan"], "name": "Old"}, "known_diets": [{"key": "vegan"}], "version": None, "diets": []}
    told = pure(
        """const s = p.fromStart(a); let h = p.history(s);
        const seen = [s.touched];
        for (const m of [{ type: "do", act: { type: "servings", servings: 9 }, at: 9e9 }, { type: "undo" }, { type: "redo" }]) {
          h = p.move(h, m);
          seen.push(h.now.touched);
        }
        return [s.base, s.name, seen];""",
        start,
    )
    assert told == [BASE, "Old", [False, True, True, True]]
