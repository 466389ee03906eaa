"""What a pack is asked, and that its answers vouch for that and for nothing else."""

import pytest

from mutabilis.core.diets.pack_questions import GLUTEN, SUGAR, VEGAN, answered, questions
from mutabilis.core.diets.packs import PackReading, standing
from mutabilis.core.diets.rules import Clause, DietRule
from mutabilis.core.diets.verdicts import judge_ingredient
from mutabilis.core.measures.profile import Profile

STRICT = Profile(traces="cannot_vouch", refined_sugar="strict")


def test_answers_clear_what_was_asked_and_vouch_for_no_other_diet(facts):
    cleared = 0
    for i in facts.ingredients.values():
        for rule in facts.diets.values():
            asked = questions(i, [rule], STRICT)
            if not asked:
                continue
            cleared += 1
            assert judge_ingredient(i, rule, STRICT)[0] == "cannot_vouch"
            reading = answered(i.id, asked, "pack", "Ottilie", "2026-11-25")
            verdict, _, caution = judge_ingredient(i, rule, STRICT, reading)
            assert verdict == "fits" and "read by Ottilie" in caution
            for other in facts.diets.values():
                if judge_ingredient(i, other, STRICT, reading)[0] == "fits":
                    needed = questions(i, [other], STRICT)
                    assert judge_ingredient(i, other, STRICT)[0] == "fits" or (needed and set(needed) <= set(asked)), (
                        i.id,
                        rule.key,
                        other.key,
                    )
    assert cleared > 50


def test_what_is_asked(facts):
    ask = lambda name, *diets: questions(facts.ingredients[name], [facts.diets[d] for d in diets], STRICT)  # noqa: E731
    assert (
        ask("oat_flour", "gluten_free") == (GLUTEN,) and ask("egg", "vegan") == () and ask("oat_flour", "vegan", "gluten_free") == (GLUTEN,)
    )
    assert ask("pancake_mix", "gluten_free") == ()  # of a mix only the whole label can tell
    assert ask("water", "vegan", "gluten_free") == ask("oat_flour") == ()  # nothing is in question, or nobody asks
    assert ask("all_purpose_flour", "egg_free", "gluten_free") == ()  # no pack makes wheat another thing, whatever else it could say
    # What was read before stands: a mill that names milk is not asked about milk again, and a certified one about nothing.
    oats, free = facts.ingredients["oat_flour"], [facts.diets[d] for d in ("gluten_free", "dairy_free")]
    named = PackReading(ingredient="oat_flour", pack="blue", by="O", on="2026-01-01", may_contain=("milk",))
    assert questions(oats, free, STRICT, named) == ()
    assert questions(oats, free[:1], STRICT, answered("oat_flour", (GLUTEN,), "blue", "O", "2026-01-01")) == ()


@pytest.mark.parametrize(
    ("changed", "clause", "asked"),
    [
        ({"animal": "check"}, {"animal": ("egg", "dairy", "meat")}, (VEGAN,)),
        ({"added_sugar": "check"}, {"added_sugar": ("yes",)}, (SUGAR,)),
        ({"contains_gluten": "risk"}, {"gluten": ("yes",)}, (GLUTEN,)),
        ({"allergens": ("may:milk",)}, {"allergen": ("milk",)}, ("milk",)),
        ({"allergens": ("check:soy", "may:milk")}, {"allergen": ("soy", "egg")}, ("soy",)),  # of milk nobody asks
        ({"allergens": ("check:any",)}, {"allergen": ("soy",)}, ()),  # only the whole label can tell
        ({"allergens": ("soy",), "animal": "check"}, {"allergen": ("soy",)}, ()),  # it holds soy whatever else is said
        ({"animal": "none", "added_sugar": "no"}, {"animal": ("egg",)}, ()),
    ],
    ids=lambda x: "+".join(x) or "nothing" if isinstance(x, (dict, tuple)) else None,
)
def test_each_thing_in_question_has_its_own_question(changed, clause, asked, facts):
    thing = facts.ingredients["water"].model_copy(update={"id": "thing", "name": "thing", **changed})
    rule = DietRule(key="on_trial", label="On trial", deny=(Clause(reason="not for this guest", **clause),))
    assert questions(thing, [rule], STRICT) == asked


def test_parts_of_one_label_stand_together_until_another_pack_is_in_use():
    read = lambda on, *says, pack="blue": answered("oat_flour", says, pack, "O", on)  # noqa: E731
    both = standing([read("2026-01-01", GLUTEN), read("2026-01-02", "milk")], {"oat_flour": "blue"})["oat_flour"]
    assert both.certified_gluten_free and both.answers == ("milk",) and both.on == "2026-01-02"
    assert standing([read("2026-01-01", GLUTEN)], {"oat_flour": "red"}) == {}
    label = PackReading(ingredient="oat_flour", pack="blue", by="O", on="2026-01-01", may_contain=("milk",))
    after = standing([label, read("2026-01-02", "milk", GLUTEN)], {})["oat_flour"]
    assert after.may_contain == ("milk",) and after.certified_gluten_free and not after.part  # what the label named stays named
    with pytest.raises(ValueError, match="whole label"):
        PackReading(ingredient="x", pack="p", by="O", on="2026-01-01", part=True, contains=("milk",))
