"""The scale: what its readings mean, and what is wrong with it; the simulated one behaves as they do."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.stove.weighing import Reading, elsewhere, weigh
from mutabilis.data import load_facts
from mutabilis.devices.label_printer import Label, SimulatedPrinter
from mutabilis.devices.scale import SimulatedScale
from mutabilis.devices.thermometer import SimulatedThermometer

STOVE = load_facts().stove
F = STOVE.scale


def over(scale, seconds, act=None, start=0.0):
    """Ten readings a second; `act(second)` touches the panel."""
    readings = []
    for n in range(int(seconds * 10) + 1):
        if act is not None:
            act(n / 10)
        readings.append(scale.read(start + n / 10))
    return readings


def test_a_pour_is_counted_from_where_the_scale_stood_and_stands_when_it_has_settled():
    scale = SimulatedScale()
    scale.pour(412)
    zero = over(scale, 3)[-1].grams
    assert zero == pytest.approx(412, abs=1)
    scale.pour(160)
    moving = over(scale, 0.4, start=3.1)
    assert not weigh(moving, zero, moving[-1].at, F).stands
    settled = over(scale, 4, start=3.6)
    pour = weigh(settled[-40:], zero, settled[-1].at, F)
    assert pour.stands and pour.trouble == "" and pour.poured == pytest.approx(160, abs=1)
    assert pour.inside(160, 2) and not pour.inside(170, 2)


def test_a_pour_that_pauses_is_not_taken_for_done():
    scale = SimulatedScale()
    scale.pour(100)
    readings = over(scale, 5)
    assert weigh(readings, 0, 5, F).stands and not weigh(readings, 0, 5, F).inside(160, 3)


def test_each_trouble_is_told_and_no_amount_is_guessed():
    def after(touch, zero=400.0, wait=3.0):
        scale = SimulatedScale()
        scale.pour(560)
        first = over(scale, 3)
        touch(scale)
        more = over(scale, wait, start=3.1)
        return weigh([*first, *more], zero, 3.1 + wait, F)

    assert after(lambda s: setattr(s, "plugged", False)).trouble == "unplugged"
    assert after(lambda s: setattr(s, "frozen", True)).trouble == "frozen"
    assert after(lambda s: s.pour(6000)).trouble == "overload"
    assert after(lambda s: s.lift()).trouble == "lifted"
    assert after(lambda s: s.tare()).trouble == "lifted"
    for told in (after(lambda s: setattr(s, "plugged", False)), after(lambda s: s.lift())):
        assert told.poured is None and told.words and not told.inside(160, 5)
    less = after(lambda s: s.pour(-180))
    assert less.trouble == "less" and less.poured == pytest.approx(-20, abs=1) and not less.inside(0, 50)
    knocked = after(lambda s: s.pour(700))
    assert knocked.trouble == "jumped" and not knocked.inside(860, 5) and knocked.poured == pytest.approx(860, abs=1)


def test_a_lifted_bowl_put_back_goes_on_where_it_was():
    scale = SimulatedScale()
    scale.pour(560)
    over(scale, 3)
    scale.lift()
    assert weigh(over(scale, 2, start=3.1), 400, 5.1, F).trouble == "lifted"
    scale.put_back()
    back = over(scale, 4, start=5.2)
    assert weigh(back[-20:], 400, back[-1].at, F).poured == pytest.approx(160, abs=1)


def test_nothing_heard_is_not_nought():
    assert weigh([], 0, 0, F).trouble == "unplugged" and weigh([], 0, 0, F).poured is None
    old = [Reading(n=1, at=0.0, grams=500)]
    assert weigh(old, 400, 60, F).trouble == "frozen"


@given(
    st.lists(st.tuples(st.sampled_from(["pour", "lift", "put_back", "tare", "plug", "freeze", "wait"]), st.floats(-200, 900)), max_size=12)
)
def test_whatever_is_done_to_a_scale_it_never_gives_an_amount_with_trouble_that_hides_it(acts):
    scale, readings, now = SimulatedScale(), [], 0.0
    for act, amount in acts:
        if act == "pour":
            scale.pour(amount)
        elif act == "plug":
            scale.plugged = not scale.plugged
        elif act == "freeze":
            scale.frozen = not scale.frozen
        elif act != "wait":
            getattr(scale, act)()
        for _ in range(12):
            now += 0.1
            readings.append(scale.read(now))
        pour = weigh(readings[-80:], 0.0, now, F)
        assert (pour.poured is None) == (pour.trouble in ("unplugged", "overload", "frozen", "lifted"))
        assert bool(pour.words) == bool(pour.trouble)


def test_tolerances_and_spoons(facts):
    i = facts.ingredients
    assert STOVE.tolerance_g(i["all_purpose_flour"], 200) == pytest.approx(3)
    assert STOVE.tolerance_g(i["baking_soda"], 4) < STOVE.tolerance_g(i["whole_milk"], 4)
    assert STOVE.tolerance_g(i["egg"], 124) > 25  # eggs are whole
    assert STOVE.by_spoon(4) and not STOVE.by_spoon(12) and not STOVE.by_spoon(0)


def test_what_a_scale_holds_outlives_its_server():
    scale = SimulatedScale()
    scale.pour(500)
    scale.tare()
    again = SimulatedScale()
    again.restore(scale.saved())
    assert over(again, 3)[-1].grams == 0 and again.on_g == pytest.approx(500, abs=0.1)


def test_a_surface_heats_falls_under_a_load_and_runs_hot():
    t = SimulatedThermometer()
    assert t.read(0) == 22
    t.aim(190)
    assert 100 < t.read(90) < 150 and t.read(900) == 190
    t.load()
    assert t.read(900.1) < 175
    t.off_by_c = 20
    assert t.read(3000) == 210
    t.plugged = False
    assert t.read(3001) is None


def test_a_printer_says_when_its_roll_is_out():
    printer = SimulatedPrinter(left=1)
    assert printer.put(Label(("a",))) == "" and "out of labels" in printer.put(Label(("b",)))
    assert [x.lines for x in printer.printed] == [("a",)]


def test_drift_is_small_beside_a_tolerance():
    scale = SimulatedScale()
    scale.pour(700)
    readings = over(scale, 300)
    assert abs(readings[-1].grams - 700) <= 1


def shown(*grams, apart=0.1, start=0.0):
    """Readings of those amounts, a tenth of a second apart."""
    return [Reading(n=n, at=round(start + n * apart, 3), grams=float(g)) for n, g in enumerate(grams)]


@pytest.mark.parametrize(
    ("readings", "zero", "wait", "trouble", "poured", "stands"),
    [
        (shown(*[160] * 11), 0, 0, "", 160, True),  # a whole second of the same
        (shown(*[160] * 9), 0, 0, "", 160, False),  # not yet a second
        (shown(*[160] * 5), 0, 0, "", 160, False),
        (shown(*[160, 161] * 6), 0, 0, "", 161, True),  # a gram to and fro is the scale's own
        (shown(*[160, 161.1] * 6), 0, 0, "", 161.1, False),
        (shown(140, *[160] * 11), 0, 0, "", 160, True),  # what was before the last second is over
        (shown(*[160] * 11), 0, 2.0, "", 160, True),  # two seconds without news are borne
        (shown(*[160] * 11), 0, 2.1, "frozen", None, False),
        (shown(*[397] * 11), 400, 0, "", -3, True),  # within what a scale wavers
        (shown(*[396.9] * 11), 400, 0, "less", -3.1, True),
        (shown(*[240] * 11), 400, 0, "less", -160, True),
        (shown(*[239] * 11), 400, 0, "lifted", None, False),
        (shown(*[0] * 11), 20, 0, "less", -20, True),  # a cup so light that nobody can tell
        (shown(*[0] * 11), 20.5, 0, "lifted", None, False),
        (shown(*[100] * 8, 500, *[500] * 11), 0, 0, "", 500, True),  # a full jug at one go
        (shown(*[100] * 8, 501, *[501] * 11), 0, 0, "jumped", 501, False),
        (shown(0, 200, 300, 400, 501, *[501] * 11), 0, 0, "", 501, True),  # as much in four tenths of a second
        (shown(0, 150, 300, 401, *[401] * 11), 0, 0, "jumped", 401, False),
        (shown(*[0] * 7, 150, 300, 401, *[401] * 11), 0, 0, "jumped", 401, False),  # whenever it comes
        (shown(*[0] * 8, 150, 300, 401, *[401] * 11), 0, 0, "jumped", 401, False),
        (shown(150, *[160] * 10), 0, 0, "", 160, False),  # what was a second ago still counts
        (shown(160), 0, 0, "", 160, False),  # one reading says an amount, and not that it stands
    ],
)  # fmt: skip
def test_what_the_readings_mean_to_the_gram_and_the_tenth(readings, zero, wait, trouble, poured, stands):
    pour = weigh(readings, zero, readings[-1].at + wait, F)
    assert (pour.trouble, pour.stands, pour.gross) == (trouble, stands, readings[-1].grams)
    assert pour.poured == (None if poured is None else pytest.approx(poured))
    assert bool(pour.words) == bool(trouble)
    if pour.poured is not None:
        assert pour.inside(pour.poured + 2, 2) == (stands and not trouble) and not pour.inside(pour.poured + 2.1, 2)


def test_a_scale_that_wavers_more_is_given_more():
    coarse = F.model_copy(update={"settled_g": 2.0})
    assert [weigh(shown(*[g] * 11), 400, 1.0, f).trouble for g in (395.5, 394.5) for f in (coarse, F)] == ["", "less", "less", "less"]


def test_a_scale_in_use_for_another_batch_says_so_and_gives_no_amount():
    pour = elsewhere(412.0)
    assert (pour.trouble, pour.gross, pour.poured, pour.stands) == ("elsewhere", 412.0, None, False)
    assert "another batch" in pour.words and not pour.inside(0, 1000)
