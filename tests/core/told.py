"""Three books of all that is told: of whole batters, of single lines, of bowls that are judged. They are read by people and compared by a test.

`python -m tests.core.told` writes them anew; what then differs is read line by line before it is kept.
"""

import dataclasses
import sys
from collections.abc import Iterator
from pathlib import Path

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.entry import Contribution
from mutabilis.core.balances.holdback import hold_back
from mutabilis.core.balances.leavening import swap_leavening
from mutabilis.core.balances.nutrition import nutrient_ledgers
from mutabilis.core.balances.yields import yield_ledger
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.main_liquid import main_liquid
from mutabilis.core.diets.pack_questions import questions
from mutabilis.core.diets.verdicts import in_short, judge_ingredient
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.coefficients import per_gram
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.events import EVENT
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.data import load_facts

HERE = Path(__file__).parent
BATTERS_BOOK, LINES_BOOK, BOWLS_BOOK = HERE / "told_batters.txt", HERE / "told_lines.txt", HERE / "told_bowls.txt"
# Chosen so that every balance is at rest, too low and too high somewhere, and every rule of a warning speaks.
BATTERS = (
    ("plain griddle cakes", "griddle", "200 g plain flour\n260 g whole milk\n2 eggs\n30 g butter\n10 g baking powder\n20 g sugar\n3 g salt"),
    ("buttermilk and soda", "griddle", "200 g plain flour\n320 g buttermilk\n1 egg\n4 g baking soda\n20 g honey\n2 g salt"),
    ("soda without acid", "griddle", "200 g plain flour\n300 g oat drink\n5 g baking soda\n30 g cane sugar"),
    ("sour and flat", "griddle", "200 g rye flour\n300 g yogurt\n30 g lemon juice\n1 egg"),
    ("coconut flour", "griddle", "60 g coconut flour\n5 eggs\n200 g coconut drink\n40 g coconut oil\n5 g baking powder\n30 g erythritol"),
    ("low-carb almond waffle", "waffle", "180 g almond flour\n3 eggs\n120 g almond drink\n30 g butter\n8 g baking powder\n4 g psyllium husk\n25 g allulose"),
    ("yeast waffle", "waffle", "300 g plain flour\n420 g whole milk\n2 eggs\n120 g butter\n6 g dried yeast\n20 g sugar\n5 g salt"),
    ("foam waffle", "waffle", "160 g plain flour\n200 g milk\n60 g egg yolk\n120 g egg whites, beaten stiff\n60 g butter\n30 g sugar"),
    ("crepe", "crepe", "150 g plain flour\n330 g whole milk\n3 eggs\n25 g butter\n2 g salt"),
    ("buckwheat galette", "crepe", "200 g buckwheat flour\n480 g water\n1 egg\n6 g salt"),
    ("vegan, gluten-free", "griddle", "120 g rice flour\n60 g oat flour\n40 g tapioca starch\n300 g soy drink\n15 g flax meal\n30 g rapeseed oil\n10 g baking powder\n10 g apple cider vinegar\n25 g maple syrup\n3 g salt"),
    ("gum and too much water", "griddle", "150 g gluten-free flour blend\n500 g water\n6 g xanthan gum\n10 g baking powder"),
    ("no set at all", "griddle", "200 g cassava flour\n300 g rice drink\n40 g sunflower oil\n10 g baking powder"),
    ("sweet and fat", "griddle", "150 g plain flour\n150 g cream\n3 eggs\n120 g butter\n140 g sugar\n20 g baking powder\n9 g salt"),
    ("fruit and nuts", "tray", "240 g spelt flour\n300 g kefir\n2 eggs\n120 g blueberries\n60 g walnuts\n40 g dark chocolate\n8 g baking powder\n3 g baking soda"),
    ("banana and oats", "griddle", "200 g banana\n120 g rolled oats\n2 eggs\n60 g cottage cheese\n5 g cinnamon"),
    ("self-raising with more powder", "griddle", "250 g self-raising flour\n300 g semi-skimmed milk\n1 egg\n15 g baking powder"),
    ("aquafaba foam", "waffle", "180 g plain flour\n240 g soy drink\n120 g aquafaba, whipped\n40 g margarine\n9 g baking powder\n30 g sugar"),
    ("polyols for a crowd", "griddle", "180 g almond flour\n4 eggs\n120 g water\n150 g xylitol\n8 g baking powder"),
    ("beer", "waffle", "250 g plain flour\n330 ml beer\n2 eggs\n60 g oil\n5 g salt\n3 g baking soda"),
    ("a line unread", "griddle", "200 g plain flour\n280 g milk\na good handful of moonlight\n10 g baking powder"),
    ("labels on the lines", "griddle", "200 g plain flour\n260 g oat drink (may contain traces of nuts)\n40 g chocolate chips (contains milk and soy)\n30 g margarine, dairy-free\n20 g gluten-free oats or barley flakes\n10 g baking powder\nsesame seeds, to serve"),
    ("ready to eat beside", "griddle", "200 g plain flour\n260 g milk\n2 eggs\n10 g baking powder\nTopping:\n200 g strawberries\n40 g sugar"),
    ("nothing yet", "griddle", ""),
    ("a crumb", "griddle", "0.4 g plain flour\n0.5 g whole milk\n0.02 g baking powder"),
    ("water alone", "crepe", "200 g water"),
    ("eggs alone", "griddle", "4 eggs\n20 g sugar\n5 g egg white powder"),
    ("pea protein and egg white powder", "griddle", "60 g pea protein isolate\n40 g oat flour\n20 g egg white powder\n300 g oat drink\n10 g baking powder"),
    ("lifted by steam", "tray", "150 g plain flour\n4 eggs\n300 g whole milk\n3 g salt"),
    ("leavened far too much", "griddle", "200 g plain flour\n300 g milk\n1 egg\n60 g baking powder"),
    ("powder where soda would do", "griddle", "250 g plain flour\n400 g buttermilk\n1 egg\n3 g baking powder"),
    ("half swapped", "griddle", "200 g plain flour\n100 g oat drink\n200 g soy yogurt\n40 g butter\n30 g cream cheese\n1 egg\n10 g baking powder\nTo serve:\n20 g butter"),
    ("half swapped by yogurt alone", "griddle", "200 g plain flour\n300 g soy yogurt\na wisp of smoke\n10 g baking powder\n40 g milk chocolate\n20 g butter"),
    ("thinner than a plate can tell", "crepe", "60 g plain flour\n500 g whole milk\n1 egg"),
    ("a dough", "griddle", "300 g plain flour\n60 g milk\n10 g baking powder"),
    ("a little short of water", "griddle", "150 g coconut flour\n10 g psyllium husk\n150 g water"),
)  # fmt: skip
# What of the liquid was poured, and how the bowl was looked at: after so many minutes, in which way, the figure, and what was added then [g].
LOOKS = (
    (0.85, ((5.0, "spread", 8.0, 0.0),)), (1.0, ((12.0, "spread", 11.0, 0.0),)), (0.9, ((10.0, "spread", 15.0, 0.0),)), (0.85, ((8.0, "piece", 10.5, 0.0),)),
    (0.85, ((6.0, "eye", -2.0, 0.0),)), (1.0, ((20.0, "eye", 1.0, 0.0),)), (0.8, ((5.0, "spread", 7.0, 25.0), (9.0, "spread", 10.0, 0.0))), (0.85, ((4.0, "eye", -1.0, 12.0), (15.0, "piece", 11.0, 0.0))),
)  # fmt: skip
KITCHENS = {
    "as shipped": Profile(),
    "strict": Profile(honey="strict", refined_sugar="strict", coconut_is_nut=True, oats="none", traces="cannot_vouch", net_carb="total"),
    "lenient": Profile(honey="lenient", oats="any", uncertified_flour="read_the_pack", traces="caution", net_carb="minus_fibre"),
}


def batters() -> Iterator[str]:
    """All that is told of each batter, a line for each thing; what leavenings come to in each other's place."""
    facts = _fresh()
    rules = dict(facts.diets)
    for name, form, text in BATTERS:
        batter = Batter(lines=read_lines(text, facts, Profile()), form=form, servings=4.0)
        a = analyse(batter, facts, Profile(), rules)
        yield f"== {name} ({form})"
        for field in dataclasses.fields(a):
            if field.name not in ("batter", "bowl", "ledgers", "diets", "plate", "sides", "warnings"):
                yield from _dump(field.name, getattr(a, field.name))
        for ledger in (*a.ledgers, *nutrient_ledgers(a.bowl, a.servings), yield_ledger(a.bowl, a.yields)):
            yield from _dump(f"ledger {ledger.key}", ledger)
        for by in ("scale", "cups"):
            yield from _dump(f"hold back by {by}", hold_back(a.bowl, by))
        for w in a.warnings:
            yield from _dump(f"warning {w.code}", w)
        for key, judged in a.diets.items():
            said = "; ".join(r.text for r in judged.reasons), "; ".join(r.text for r in judged.cautions)
            yield f"diet {key}: {judged.verdict} | {said[0]} | {said[1]}"
        yield from _dump("plate", {k: v for k, v in vars_of(a.plate).items() if k != "diets"})
    yield "== leavenings in each other's place"
    raising = [i for i in facts.ingredients.values() if per_gram(i, 10.0).soda > 0]
    for old, new in ((a, b) for a in raising[:6] for b in raising[:6]):
        for acid, buffer in ((0.0, 0.0), (12.0, 4.0), (60.0, 0.0)):
            yield from _dump(f"{new.short} for 10 g {old.short}, {acid:g} and {buffer:g} meq", swap_leavening(old, 10.0, new, acid, buffer))
    yield ""


def lines() -> Iterator[str]:
    """What shipped ingredients are told to be, diet by diet, in three kitchens: the verdict, the reason and the same in short; what is asked of the
    pack. Those of which the same is told stand together, "…" for their names."""
    facts = _fresh()
    alike: dict[tuple[str, ...], list[str]] = {}
    for id_, i in sorted(facts.ingredients.items()):
        told = []
        for place, profile in KITCHENS.items():
            said: dict[str, list[str]] = {}
            for key, rule in facts.diets.items():
                verdict, reason, question = judge_ingredient(i, rule, profile)
                if (verdict, reason, question) == ("fits", "", "") or (place != "as shipped" and judge_ingredient(i, rule, Profile()) == (verdict, reason, question)):  # fmt: skip
                    continue
                words = f"{verdict} | {reason} | {in_short(reason, i) if reason else ''} | {question}"
                said.setdefault(words.replace(i.short, "…"), []).append(key)
            told += [f"{place}, {', '.join(keys)}: {words}" for words, keys in said.items()]
            asked = questions(i, facts.diets.values(), profile)
            if asked and (place == "as shipped" or asked != questions(i, facts.diets.values(), Profile())):
                told.append(f"{place}, asks: {'; '.join(asked)}")
        alike.setdefault(tuple(told), []).append(id_)
    for told, ids in alike.items():
        yield f"== {', '.join(ids)}"
        yield from told
    yield ""


def bowls() -> Iterator[str]:
    """What is advised where a bowl is judged: by plate, by test piece and by eye, too thick, right and too thin, early and late, once and again after
    more went in."""
    facts = _fresh()
    for name, form, text in BATTERS[:12]:
        plan = Batter(lines=read_lines(text, facts, Profile()), form=form, servings=4.0)
        liquid = main_liquid((n, facts.ingredients[x.ingredient or ""], x.grams) for n, x in enumerate(plan.lines) if x.counts)
        for poured, looks in LOOKS:
            events = [
                EVENT.validate_python({"kind": "poured", "id": f"{n:016x}", "at": 1000.0 + n, "line": n, "slot": 0, "grams": round(x.grams * (poured if n == liquid else 1.0), 1), "held": n == liquid})
                for n, x in enumerate(plan.lines)
                if x.counts and x.grams > 0
            ]  # fmt: skip
            events.append(EVENT.validate_python({"kind": "step_done", "id": "a" * 16, "at": 2000.0, "key": "mix", "wets": True}))
            for n, (minutes, way, value, more) in enumerate(looks):
                at = 2000.0 + 60 * minutes
                events.append(EVENT.validate_python({"kind": "judged", "id": f"b{n:015x}", "at": at, "way": way, "value": value}))
                if more and liquid is not None:
                    events.append(EVENT.validate_python({"kind": "poured", "id": f"c{n:015x}", "at": at + 5, "line": liquid, "slot": n + 1, "grams": more, "by": "measure"}))  # fmt: skip
            batch = Batch(
                id="b" * 16, version_id="v", batter_id="x", name=name, number=1, plan=plan, diets=(), whom="", first_at=None, order="two_bowls", mark=0, started=1000.0, events=tuple(events),
            )  # fmt: skip
            g = Guide(batch, 2000.0 + 60 * looks[-1][0] + 30, facts, Profile())
            yield f"== {name}: {poured:.0%} poured, {'; '.join(f'{way} {value:g} after {minutes:g} min' for minutes, way, value, _ in looks)}"
            yield from _dump("judging", g.judging if poured == LOOKS[0][0] and looks == LOOKS[0][1] else g.judging.advice)
    yield ""


def _fresh() -> AllFacts:
    """The facts anew: nothing that was judged before is remembered of them."""
    load_facts.cache_clear()
    return load_facts()


def vars_of(x: object) -> dict[str, object]:
    """The fields of a result by name."""
    return {f.name: getattr(x, f.name) for f in dataclasses.fields(x)} if dataclasses.is_dataclass(x) else {}


def _dump(name: str, x: object) -> Iterator[str]:
    if isinstance(x, float):
        yield f"{name}: {x:.5g}"
    elif dataclasses.is_dataclass(x) and not isinstance(x, type | Contribution):
        for key, value in vars_of(x).items():
            if key != "contributions" or name.startswith("ledger"):  # they stand in the ledgers
                yield from _dump(f"{name} {key}", value)
    elif isinstance(x, dict):
        for key, value in x.items():
            yield from _dump(f"{name} {key}", value)
    elif isinstance(x, Contribution):
        yield f"{name}: {x.line} {x.name}, {x.amount:.5g} {x.part} | {x.rule} | {x.confidence}"
    elif isinstance(x, tuple | list) and x and not isinstance(x[0], str):
        for n, value in enumerate(x):
            yield from _dump(f"{name} {n}", value)
    elif x not in (None, (), ""):
        yield f"{name}: {x}"


if __name__ == "__main__":
    for path, book in ((BATTERS_BOOK, batters), (LINES_BOOK, lines), (BOWLS_BOOK, bowls)):
        path.write_text("\n".join(book()), encoding="utf-8")
    sys.exit(0)
