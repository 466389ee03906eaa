"""Batches made wrong on purpose: one cause at a random severity, what a Stove would have recorded of it, and the faults that follow by
rules of this kitchen's own, which know nothing of the diagnosis' tables."""

import random
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from mutabilis.core.analysis.analysis import Analysis, analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.diagnosis.features import figures
from mutabilis.core.diagnosis.record import Happened, PackAge, Record, Spread
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_diagnosis, load_facts

FACTS, TABLES = load_facts(), load_diagnosis()
BASES = (
    ("griddle", "200 g plain flour\n230 g milk\n2 eggs\n10 g baking powder\n25 g sugar\n30 g butter, melted\n2 g salt"),
    ("griddle", "220 g plain flour\n330 g buttermilk\n1 egg\n4 g baking soda\n4 g baking powder\n20 g sugar\n25 g oil"),
    ("griddle", "120 g buckwheat flour\n80 g rice flour\n270 g oat drink\n10 g baking powder\n20 g flaxseed, ground\n25 g sugar\n25 g oil"),
    ("griddle", "200 g plain flour\n240 g milk\n2 eggs\n9 g baking powder\n30 g sugar\n30 g butter, melted\n80 g blueberries"),
    ("waffle", "250 g plain flour\n340 g milk\n2 eggs\n12 g baking powder\n30 g sugar\n80 g butter, melted"),
    ("waffle", "150 g rice flour\n80 g potato starch\n280 g soy drink\n12 g baking powder\n40 g oil\n15 g sugar\n6 g psyllium husk"),
    ("crepe", "200 g plain flour\n430 g milk\n3 eggs\n30 g butter, melted\n2 g salt"),
    ("crepe", "150 g buckwheat flour\n50 g plain flour\n480 g water\n1 egg\n20 g oil"),
    ("tray", "250 g plain flour\n320 g milk\n3 eggs\n14 g baking powder\n60 g sugar\n60 g butter, melted"),
    ("waffle", "220 g plain flour\n330 g milk\n3 egg yolks\n3 egg whites, whipped stiff\n8 g baking powder\n20 g sugar\n80 g butter, melted"),
    ("griddle", "120 g almond flour\n40 g tapioca starch\n120 g milk\n3 eggs\n8 g baking powder\n15 g sugar"),
    ("griddle", "200 g plain flour\n230 g milk\n2 eggs\n10 g baking powder\n60 g sunflower seeds, ground\n20 g sugar"),
    ("griddle", "150 g rolled oats\n60 g plain flour\n300 g milk\n2 eggs\n10 g baking powder\n30 g butter, melted\n20 g sugar"),
    ("waffle", "230 g plain flour\n300 g milk\n2 eggs\n10 g baking powder\n30 g sugar\n60 g butter, melted\n90 g raspberries"),
    ("crepe", "120 g rice flour\n80 g potato starch\n430 g water\n2 eggs\n20 g oil"),
)  # fmt: skip


@dataclass
class Wrong:
    """A batch under way to be wrong: its lines by ingredient, what is recorded, and the faults so far with how likely each is."""

    form: str
    base: Batter
    grams: dict[str, float]
    e: dict[str, Any]
    dice: random.Random
    packs: dict[str, int] = field(default_factory=dict)
    true_flow: float = 1.0  # what was really poured of the liquid, beside what was written down
    when: str = "all"
    faults: dict[str, float] = field(default_factory=dict)

    def times(self, group: tuple[str, ...], factor: float) -> bool:
        """So many times of a group; False where there is none of it."""
        ids = [i for i in self.grams if FACTS.ingredients[i].group in group]
        for i in ids:
            self.grams[i] *= factor
        return bool(ids)

    def may(self, **faults: float) -> bool:
        self.faults |= {f: max(p, self.faults.get(f, 0)) for f, p in faults.items()}
        return True


LIQUIDS = ("milk", "plant_milk", "cultured_dairy", "water_juice")


def _low(w: Wrong) -> bool:
    s = w.dice.uniform(0.68, 0.85)
    return w.times(LIQUIDS, s) and w.may(thick=0.9, dense=0.5, dry=0.35)


def _high(w: Wrong) -> bool:
    return w.times(LIQUIDS, w.dice.uniform(1.2, 1.45)) and w.may(spreads=0.85, flat=0.5, soggy=0.2)


def _powder(w: Wrong, factor: tuple[float, float], **faults: float) -> bool:
    return w.form != "crepe" and w.times(("leavener",), w.dice.uniform(*factor)) and w.may(**faults)


def _event(w: Wrong, faults: dict[str, float], **events: Any) -> bool:
    w.e |= events
    return w.may(**faults)


def _soda(w: Wrong) -> bool:
    if w.form == "crepe":
        return False
    w.grams["baking_soda"] = w.grams.get("baking_soda", 0.0) + w.dice.uniform(4, 8)
    return w.may(soapy=0.85, dark=0.5, bitter=0.25)


def _sugar(w: Wrong) -> bool:
    w.grams["sugar"] = w.grams.get("sugar", 0.0) + w.dice.uniform(60, 110)
    return w.may(dark=0.75, sticks=0.5)


def _old(w: Wrong) -> bool:
    ids = [i for i in w.grams if FACTS.ingredients[i].group == "leavener"]
    for i in ids:
        w.packs[i] = round(w.dice.uniform(330, 700))
    return bool(ids) and w.may(flat=0.75, dense=0.65)


def _measure(w: Wrong) -> bool:
    w.true_flow = w.dice.choice((0.7, 1.4))
    return w.may(thick=0.8, dense=0.5, dry=0.3) if w.true_flow < 1 else w.may(spreads=0.8, flat=0.4)


def _sour(w: Wrong) -> bool:
    w.grams["lemon_juice"] = w.grams.get("lemon_juice", 0.0) + w.dice.uniform(45, 90)
    return w.may(sour=0.85, pale=0.4)


def _swap(w: Wrong) -> bool:
    """Half of the flour one for one by another that drinks three times as much."""
    if "all_purpose_flour" not in w.grams:
        return False
    half = w.grams["all_purpose_flour"] * w.dice.uniform(0.35, 0.5)
    w.grams["all_purpose_flour"] -= half
    w.grams["coconut_flour"] = half
    return w.may(thick=0.8, dry=0.6, crumbly=0.5)


def _green(w: Wrong) -> bool:
    """Seeds with a pigment, and soda that meets no acid."""
    if not any("sunflower" in i for i in w.grams):
        return False
    w.grams["baking_soda"] = w.grams.get("baking_soda", 0.0) + w.dice.uniform(3, 6)
    return w.may(green=0.95)


def _stale(w: Wrong) -> bool:
    meal = [i for i in w.grams if i.startswith(("almond", "sunflower", "flax"))]
    for i in meal:
        w.packs[i] = round(w.dice.uniform(200, 500))
    return bool(meal) and w.may(bitter=0.9)


def _when(w: Wrong, when: str, ok: bool) -> bool:
    w.when = when
    return ok


SPOIL: dict[str, Callable[[Wrong], bool]] = {
    "water_low": _low,
    "water_high": _high,
    "measure_error": _measure,
    "lift_low": lambda w: _powder(w, (0.2, 0.4), flat=0.8, dense=0.7),
    "lift_high": lambda w: _powder(w, (3.0, 4.0), collapses=0.6, bitter=0.55, holes=0.35),
    "soda_unmet": _soda,
    "sugar_high": _sugar,
    "powder_old": _old,
    "heat_high": lambda w: _event(w, {"dark": 0.9, "raw": 0.5}, read_c=w.e["read_c"] + w.dice.uniform(28, 45)),
    "heat_low": lambda w: _event(w, {"pale": 0.9, "dry": 0.3}, read_c=w.e["read_c"] - w.dice.uniform(28, 45)),
    "cold_surface": lambda w: w.form != "tray" and _when(w, "first", _event(w, {"pale": 0.7, "sticks": 0.5}, heat_on_min=w.e["heat_up_min"] * w.dice.uniform(0.2, 0.55))),
    "turned_early": lambda w: w.form in ("griddle", "crepe") and _event(w, {"raw": 0.5, "falls_apart": 0.45, "pale": 0.35}, turned_s=w.e["turned_s"] * w.dice.uniform(0.4, 0.62)),
    "opened_early": lambda w: w.form == "waffle" and _event(w, {"soggy": 0.5, "falls_apart": 0.5, "pale": 0.4}, off_s=w.e["off_s"] * w.dice.uniform(0.5, 0.68)),
    "cooked_long": lambda w: _event(w, {"dry": 0.8, "dark": 0.5}, off_s=w.e["off_s"] * w.dice.uniform(1.55, 2.0)),
    "grease_none": lambda w: w.form != "tray" and _event(w, {"sticks": 0.9}, grease="none"),
    "grease_much": lambda w: w.form in ("griddle", "crepe") and _event(w, {"soggy": 0.4, "dark": 0.35, "holes": 0.3}, grease="generous"),
    "surface_dirty": lambda w: w.form != "tray" and _when(w, "later", _event(w, {"sticks": 0.6, "bitter": 0.45, "dark": 0.4}, loads_since_wiped=w.dice.randint(6, 11))),
    "stacked_hot": lambda w: w.form != "crepe" and _event(w, {"soggy": 0.95}, held="pile"),
    "overmixed": lambda w: w.form != "crepe" and "all_purpose_flour" in w.grams and _event(w, {"tough": 0.7, "rubbery": 0.6, "holes": 0.3}, mix_s=w.dice.uniform(65, 140)),
    "lift_lost": lambda w: w.form != "crepe" and "baking_soda" in w.grams and _when(w, "later", _event(w, {"flat": 0.8, "dense": 0.6}, wet_to_last_min=w.dice.uniform(80, 150))),
    "acid_left": _sour,
    "set_weak": lambda w: w.times(("egg",), w.dice.uniform(0.1, 0.35)) and w.may(falls_apart=0.85, crumbly=0.4, sticks=0.3),
    "set_high": lambda w: w.times(("egg",), w.dice.uniform(2.2, 3.0)) and w.may(rubbery=0.8, eggy=0.7),
    "binder_high": lambda w: "psyllium_husk" in w.grams and w.times(("binder",), w.dice.uniform(3.0, 4.5)) and w.may(gummy=0.85, thick=0.4),
    "sugar_low": lambda w: w.times(("sugar",), 0.0) and w.times(("milk", "cultured_dairy"), 1.0) and w.may(pale=0.85),
    "fat_low": lambda w: w.form != "tray" and w.times(("fat_solid", "fat_oil"), w.dice.uniform(0.0, 0.15)) and w.may(sticks=0.6, tough=0.5, dry=0.5),
    "flour_undrunk": lambda w: "rolled_oats" in w.grams and _event(w, {"gritty": 0.8, "crumbly": 0.4}, wet_to_first_min=w.dice.uniform(0.5, 3)),
    "piece_thick": lambda w: w.form in ("griddle", "crepe") and _event(w, {"raw": 0.8, "gummy": 0.4}, thickness_mm=w.dice.uniform(22, 32)),
    "foam_lost": lambda w: "egg_white" in w.grams and _event(w, {"flat": 0.8, "dense": 0.6}, foam_to_last_min=w.dice.uniform(30, 60)),
    "order_wrong": lambda w: _event(w, {"lumps": 0.75, "eggy": 0.4}, order_off=True),
    "fruit_water": lambda w: any("berry" in i for i in w.grams) and _event(w, {"soggy": 0.5, "gummy": 0.5, "raw": 0.4}, fruit="thawed"),
    "oven_cold": lambda w: w.form == "tray" and _event(w, {"pale": 0.85, "flat": 0.4}, heat_on_min=w.e["heat_up_min"] * w.dice.uniform(0.2, 0.45)),
    "starch_settled": lambda w: w.form == "crepe" and "potato_starch" in w.grams and _when(w, "later", _event(w, {"falls_apart": 0.5, "thick": 0.4, "gritty": 0.3}, stirred=False)),
    "swap_unbalanced": _swap,
    "green_reaction": _green,
    "stale_meal": _stale,
    "under_rested": lambda w: w.form == "crepe" and "all_purpose_flour" in w.grams and _event(w, {"rubbery": 0.55, "tough": 0.5, "holes": 0.3}, wet_to_first_min=w.dice.uniform(1, 10)),
}  # fmt: skip


def usual(form: str, now: Analysis, dice: random.Random) -> dict[str, Any]:
    """What the Stove records of a batch that goes as it should, with the noise of a kitchen."""
    seen = figures(Record(batter=now.batter, faults=("dense",)), now, None, FACTS, TABLES)
    cooked, surface = seen.fire.advised, seen.fire.surface
    assert cooked is not None and surface is not None and cooked.done_s is not None
    rest = now.bowl.rest_min
    near = lambda x, by: x * dice.gauss(1, by)  # noqa: E731
    return {
        "wet_to_first_min": rest + dice.uniform(0, 5), "wet_to_last_min": rest + dice.uniform(12, 25), "read_c": near(cooked.celsius, 0.03), "heat_on_min": near(surface.heat_up_min * 1.15, 0.08),
        "heat_up_min": surface.heat_up_min, "gap_s": near(surface.recover_s * 1.2, 0.15), "recover_s": surface.recover_s, "turned_s": near(cooked.turn_s, 0.08) if cooked.turn_s and form in ("griddle", "crepe") else None,
        "off_s": near(cooked.done_s, 0.08), "grease": "film", "loads_since_wiped": dice.randint(0, 3), "mix_s": dice.uniform(18, 38), "held": dice.choice(("rack", "oven")),
    }  # fmt: skip


def batch(cause: str, seed: int, missing: float = 0.0) -> Record | None:
    """A batch with one cause at work; None where this form or bowl cannot have it, or where nobody would have noticed."""
    dice = random.Random(f"{cause}{seed}")
    form, text = dice.choice(BASES)
    base = Batter(lines=read_lines(text, FACTS, Profile()), form=form)  # type: ignore[arg-type]
    ref = analyse(base, FACTS, Profile(), {})
    w = Wrong(form, base, {x.ingredient: x.grams for x in base.lines if x.counts and x.ingredient}, usual(form, ref, dice), dice)
    for i in w.grams:
        if FACTS.ingredients[i].group == "leavener":
            w.packs[i] = round(dice.uniform(5, 180))
    if not SPOIL[cause](w):
        return None
    shown = [f for f, p in w.faults.items() if dice.random() < p * 0.85]
    if not shown:
        return None
    if dice.random() < 0.08:
        shown.append(dice.choice(sorted(set(TABLES.network.faults) - set(shown))))
    lines = [x.model_copy(update={"grams": w.grams.pop(x.ingredient, x.grams)}) for x in base.lines]
    made = base.model_copy(update={"lines": tuple(lines)})
    for id, g in w.grams.items():
        made = made.model_copy(update={"lines": (*made.lines, *read_lines(f"{g:.1f} g {FACTS.ingredients[id].name}", FACTS, Profile()))})
    judged: tuple[Spread, ...] = ()
    if form != "crepe" or cause == "measure_error":
        poured = analyse(_liquid(made, w.true_flow), FACTS, Profile(), {})
        if poured.water.spread_cm is not None:
            judged = (Spread(cm=max(3.0, poured.water.spread_cm + dice.gauss(0, 0.4)), minutes=poured.bowl.rest_min),)
    e = {k: v for k, v in w.e.items() if v is not None and dice.random() >= missing}
    return Record(
        batter=made, reference=base if dice.random() >= missing / 2 else None, reference_is="proven", by="scale", events=Happened.model_validate(e), judged=judged if dice.random() >= missing else (),
        packs={i: PackAge(opened_days=d) for i, d in w.packs.items() if dice.random() >= missing}, faults=tuple(shown), when=w.when if dice.random() >= missing else None,  # type: ignore[arg-type]
    )  # fmt: skip


def _liquid(b: Batter, factor: float) -> Batter:
    if factor == 1:
        return b
    lines = tuple(
        x.model_copy(update={"grams": x.grams * factor}) if x.ingredient and FACTS.ingredients[x.ingredient].group in LIQUIDS else x
        for x in b.lines
    )
    return b.model_copy(update={"lines": lines})


def answered(r: Record, cause: str, question: str, seed: int) -> str:
    """What the cook answers: as the cause would have it, one time in twelve anything."""
    dice = random.Random(f"{question}{seed}")
    rows = [q for q in TABLES.questions if q.question == question]
    usual_ = {q.answer: q.probability for q in rows if q.cause == "*"}
    own = {q.answer: q.probability for q in rows if q.cause == cause} or usual_
    if dice.random() < 1 / 12:
        return dice.choice(sorted(usual_))
    return dice.choices(list(own), list(own.values()))[0]
