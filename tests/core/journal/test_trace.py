"""The way of a pack by hand: two packs in one batch, bags, and back from a guest. Nothing that may hold it is ever ruled out."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.journal.summary import Packed
from mutabilis.core.journal.trace import Plated, Use, back, in_bag, trace

PACKS = st.sampled_from(["", "lot 1", "lot 2", "LOT  1", "Hill eggs (lot 1)", "lot", "lot 11"])


def use(batch, pack, ingredient="egg", kept=""):
    return Use(batch=batch, name="Cakes", day="2030-05-01", ingredient=ingredient, pack=pack, whom="", kept=kept, until="")


@given(st.lists(st.tuples(st.sampled_from("abcd"), PACKS, st.sampled_from(["egg", "milk"])), max_size=20))
def test_each_batch_stands_in_one_list_and_only_another_pack_alone_rules_it_out(rows):
    found = trace("egg", "lot 1", [use(b, p, i) for b, p, i in rows])
    mine = {b: {p for at, p, i in rows if at == b and i == "egg"} for b, _, i in rows if i == "egg"}
    certain, possible, out = ({u.batch for u in which} for which in (found.certain, found.possible, found.ruled_out))
    assert certain == {b for b, packs in mine.items() if packs & {"lot 1", "LOT  1", "Hill eggs (lot 1)"}}
    assert possible == {b for b, packs in mine.items() if packs & {"", "lot"}} - certain
    assert out == {b for b, packs in mine.items() if packs <= {"lot 2", "lot 11"}} and len(found.certain) == len(certain)
    assert "safe" not in found.words and found.words.startswith("Nobody named this pack") == (bool(out) and not certain)


@pytest.mark.parametrize(
    "holds, packs, found",
    [
        (["egg"], {"egg": "Lot  1"}, True), (["egg"], {"egg": "lot 2"}, False), (["egg"], {}, None), (["egg"], None, None),
        (["egg"], {"egg": "Lot"}, None), (["flour"], {"egg": "lot 1"}, False), ([], None, False), (["egg"], {"flour": "lot 1"}, None),
    ],
)  # fmt: skip
def test_a_bag_holds_a_pack_may_hold_it_or_does_not(holds, packs, found):
    assert in_bag("egg", "lot 1", holds, packs) is found


def plated(batch, *names, whom="", day="2030-05-01", others=False):
    return Plated(
        batch=batch, name="Cakes", day=day, whom=whom, names=names, others=others, packs=(Packed(ingredient="egg", pack="lot 1"),)
    )


@pytest.mark.parametrize(
    "guest, day, certain, possible",
    [
        ("ada", "", ["a"], ["c", "d"]), (" ADA ", "2030-05-01", ["a"], ["c"]), ("", "2030-05-02", [], ["d"]), ("tam", "", ["b"], ["c", "d"]),
        ("the walkers", "", [], ["c", "d", "e"]), ("", "2031-01-01", [], []),
    ],
)  # fmt: skip
def test_a_guest_leads_back_to_what_is_known_and_to_what_nobody_knows(guest, day, certain, possible):
    rows = [plated("a", "Ada"), plated("b", "Tam"), plated("c"), plated("d", day="2030-05-02"), plated("e", "Odo", whom="Odo of the walkers", day="2030-05-03")]  # fmt: skip
    if guest == "the walkers":
        rows[-1] = plated("e", "Odo", whom="Odo, the walkers", day="2030-05-03")
    found = back(guest, day, rows)
    assert [e.batch for e in found if e.certain] == certain and [e.batch for e in found if not e.certain] == possible


def test_bags_and_kept_food_are_told_with_what_to_do():
    from mutabilis.core.journal.trace import BagWith

    bag = BagWith(bag="1", name="Ridge", made="2030-05-01", left_g=300.0, certain=True)
    one = trace("egg", "lot 1", [use("a", "lot 1", kept="2 pieces"), use("b", "lot 1")], [bag])
    assert (
        [u.batch for u in one.certain] == ["a", "b"]
        and "1 still kept: discard it" in one.words
        and "1 bag of dry mix on the shelf" in one.words
    )
    assert "2 bags of dry mix" in trace("egg", "lot 1", [], [bag, bag]).words and "still kept" not in trace("egg", "lot 1", []).words


@pytest.mark.parametrize(
    "asked, named, others, certain",
    [("Ada", ("Ada Finch",), False, True), ("ada finch", ("Ada",), False, False), ("Ada", ("Adam",), False, None), ("Ada", ("Tam",), True, False), ("Finch, Ada", ("Ada Finch", "Tam"), False, True)],
)  # fmt: skip
def test_a_name_told_in_part_leads_back_and_nobody_is_left_out_for_it(asked, named, others, certain):
    found = back(asked, "", [plated("a", *named, others=others)])
    assert [e.certain for e in found] == ([] if certain is None else [certain])
