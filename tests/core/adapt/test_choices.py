"""A line swapped by hand: what is shown before it is taken is what comes after; and size is only size."""

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.choices import choices
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.demo import demo_batters


@pytest.mark.parametrize("diets", [(), ("vegan",), ("gluten_free", "nut_free")], ids="+".join)
def test_every_effect_shown_is_the_effect_had(diets, facts, profile):
    rules = {k: facts.diets[k] for k in diets}
    tried = 0
    for _, version in demo_batters(facts):
        batter = version.batter
        before = {x.key: x for x in analyse(batter, facts, profile, {}).ledgers}
        for at, line in enumerate(batter.lines):
            if line.ingredient is None or line.problem:
                continue
            found = choices(batter, at, rules, facts, profile)
            assert len({c.ingredient for c in found}) == len(found) and line.ingredient not in {c.ingredient for c in found}
            for choice in found[:2]:
                tried += 1
                assert choice.grams > 0 and choice.verdict != "conflicts"
                swapped = line.model_copy(
                    update={"ingredient": choice.ingredient, "grams": choice.grams, "low": choice.grams, "high": choice.grams, "states": ()}
                )
                made = Batter(**{**dict(batter), "lines": (*batter.lines[:at], swapped, *batter.lines[at + 1 :])})
                after = analyse(made, facts, profile, rules)
                marks = {x.key: x for x in after.ledgers}
                for e in choice.effects:
                    assert e.now == pytest.approx(before[e.key].mark) and e.then == pytest.approx(marks[e.key].mark, rel=1e-6, abs=1e-9), (
                        line.text, choice.ingredient, e.key,
                    )  # fmt: skip
                reasons = [r for k in rules for r in after.diets[k].reasons if r.line == at]
                assert (choice.verdict == "fits") == (not reasons)
    assert tried > 60


@pytest.mark.parametrize("factor", [0.5, 3.0])
def test_twice_the_batter_is_twice_the_answer(factor, facts, profile):
    ties = 0
    for _, version in demo_batters(facts)[:4]:
        wishes = Wishes(diets=("dairy_free",))
        one, many = (adapt(b, wishes, facts, profile) for b in (version.batter, version.batter.scaled(factor)))
        one, many = one.answers[0], many.answers[0]
        # Which of two near ties is taken may hang on a scale's step; how close it comes may not.
        assert many.score == pytest.approx(one.score, abs=0.06)
        if len({frozenset(x.ingredient for x in answer.analysis.batter.lines) for answer in (one, many)}) > 1:
            ties += 1
            continue
        for a, b in zip(one.analysis.ledgers, many.analysis.ledgers, strict=True):
            if a.key in ("flow", "lift", "acid", "sweetness", "fat", "salt"):
                assert b.mark == pytest.approx(a.mark, rel=0.05, abs=0.3), (a.key, version.note)
    assert ties <= 1
