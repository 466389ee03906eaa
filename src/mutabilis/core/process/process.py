"""The plan of a batter: derived once, read by the method, the card, every file, and each step at the Stove."""

from dataclasses import replace

from ..analysis.analysis import Analysis
from ..balances.holdback import HoldBack, hold_back
from ..balances.holdback import Way as Measured
from ..balances.lift import FOAM_HALF_MIN, FOAM_ML_PER_G, FOLDED
from ..balances.water import water
from ..batter.batter import Moment, Order
from ..batter.bowl import Bowl, fill
from ..food.naming import words_of
from ..heat.surfaces import Surface
from .cooking import OnTheHeat
from .dry_mix import bagged
from .facts import ProcessFacts
from .mixing import Mixing
from .parts import FoamMoment, HeldBack, Judged, LeaveningMoment, Moments, Operation, Process, Vessel, VesselKey, Ways, operation
from .prepared import Prepared
from .shelf import Shelf
from .sides import side_works
from .sorting import Item, sort_lines
from .ways import resolved, rest_and_moment
from .words import cap

_WET_IN: dict[Order, VesselKey] = {"two_bowls": "jug", "one_bowl": "bowl", "blender": "blender"}
LEAST_HELD_G = 1.0
PLATE_CM = (8.0, 19.0)  # thicker, or thinner, and a plate tells nothing
FOAM_ML_PER_100G = 15.0  # more air than this, and a spread tells nothing
PIECES_PER_100G = 8.0  # so many grams of pieces in 100 g of batter do not let it spread true


def process(
    a: Analysis, facts: ProcessFacts, ways: Ways | None = None, measured: Measured = "scale", surface: Surface | None = None
) -> Process:
    """The plan of an analysed batter in the cook's ways, else in the batter's own, on the surface that was named or the kitchen's usual one.

    Every line stands in portions that add up to it; what is whipped is folded in after the bowl was judged, and nothing is stirred
    after that. `measured` is how the liquid's hold-back is reckoned.
    """
    items = sort_lines(a, facts)
    ways = resolved(ways or Ways(), a.batter, any("stiff" in words_of(x.line.text) for x in items if x.white > 0))
    shelf = Shelf(items)
    rest, moment, why = rest_and_moment(a, ways)
    held = _held(hold_back(a.bowl, measured), items)
    wet: VesselKey = _WET_IN[ways.order or "two_bowls"]
    dry: VesselKey = "blender" if ways.order == "blender" else "bowl"
    kept = shelf.take(shelf.items[held.line], held.grams) if held else ()  # before anything else is made with the liquid
    in_bag = bagged(items, facts, moment == "dry") if ways.bag else frozenset()
    mix = [x for x in items if x.at in in_bag]
    prepared = Prepared([x for x in items if x.at not in in_bag], shelf, facts, wet, dry, ways.order == "blender")
    before = prepared.operations()
    if mix:
        before.append(_from_the_bag(mix, shelf, facts, "bowl" if ways.order == "two_bowls" else "mix_bowl"))
        prepared.into_dry.append("bag")
    mixing = Mixing(a, items, shelf, facts, ways, prepared, moment, held)
    mixed = mixing.batter(kept)
    judged = judged_at(a, facts, held, any(x.white > 0 for x in items))
    sides = side_works(items, facts, shelf)
    heat = OnTheHeat(a, items, shelf, facts, surface, sides)
    middle: list[Operation] = []
    if mixing.last:
        middle.append(_judge(judged, held, mixing))
        if rest > 0:
            middle.append(_rest(a, mixing, rest, moment, items, facts))
    finish = mixing.finish()
    ready = (finish or middle or mixed or before or [heat.heat()])[-1].id
    found = _known(
        [*(o for side in sides for o in side.operations), *before, *mixed, *middle, heat.heat(), *finish, *heat.operations(ready)]
    )
    used: dict[VesselKey, None] = dict.fromkeys(o.vessel for o in found)
    leavening = None
    if mixing.powders:
        leavening = LeaveningMoment(at=moment, vessel=dry if moment == "dry" else "small_cup", lasts_min=a.lift.latest_min, why=why)
    return Process(
        vessels=tuple(Vessel(id=v, name=facts.process.vessels[v]) for v in used), operations=tuple(found), critical_path_min=_longest(found), rest_min=rest, rest_c=a.batter.rest_c, sides=sides,
        moments=Moments(leavening=leavening, foam=FoamMoment(vessel="whites_bowl", half_min=FOAM_HALF_MIN) if mixing.foam else None, held_back=held, judged=judged),
    )  # fmt: skip


def _from_the_bag(mix: list[Item], shelf: Shelf, facts: ProcessFacts, vessel: VesselKey) -> Operation:
    text = f"Weigh {sum(x.grams for x in mix):.0f} g of the dry mix into the {facts.process.vessels[vessel]}."
    return operation(
        "bag", "bag", vessel, "Dry mix", text, "Shaken first: fine powders settle in a bag.", portions=shelf.take_all(mix), hands=1.0
    )


def latest_starts(p: Process, end: float = 0.0) -> dict[str, float]:
    """When each operation must begin at the latest [min], so that the last is over at `end`; nothing waits for another needlessly."""
    late: dict[str, float] = {}
    for o in reversed(p.operations):
        until = min((late[x.id] for x in p.operations if o.id in x.after and x.id in late), default=end)
        late[o.id] = until - o.minutes
    return late


def by_plate(bowl: Bowl, spread_cm: float | None) -> str:
    """Why a plate cannot tell how this bowl flows; "" where it can."""
    air = FOAM_ML_PER_G * FOLDED * sum(p.foam_g for p in bowl.portions)
    if bowl.per_100g(air) > FOAM_ML_PER_100G:
        return "By eye only: whipped air holds it up on a plate."
    if any(p.ingredient.group == "mix_in" and bowl.per_100g(p.grams) > PIECES_PER_100G for p in bowl.portions):
        return "By eye only: pieces do not let it spread true."
    if spread_cm is None or not PLATE_CM[0] <= spread_cm <= PLATE_CM[1]:
        return "By eye only: it is too stiff, or too thin, for a plate to tell."
    return ""


def judged_at(a: Analysis, facts: ProcessFacts, held: HeldBack | None, foam: bool) -> Judged:
    """What the bowl should show at the usual minute, what is held back, whipped or laid on later still out of it."""
    minute = facts.process.minutes.judge
    lines = []
    for at, line in enumerate(a.batter.lines):
        i = facts.ingredients.get(line.ingredient or "")
        if held and at == held.line:
            line = line.model_copy(update={"grams": line.grams - held.grams})
        elif line.counts and (line.foamed or (i is not None and i.group == "mix_in")):
            line = line.model_copy(update={"grams": 0.0})
        lines.append(line)
    early = fill(a.batter.model_copy(update={"lines": tuple(lines), "rest_min": minute}), facts)
    now = water(early).spread_cm if early.portions else None
    why = "By eye, before the fold: the foam comes after." if foam else by_plate(early, now)
    aim = None if foam else a.water.spread_cm
    return Judged(by_plate=not why, why=why, minute=minute, now_cm=now if not why else None, aim_cm=aim if not why else None)


def _held(plan: HoldBack | None, items: list[Item]) -> HeldBack | None:
    if plan is None or plan.hold_g < LEAST_HELD_G:
        return None
    lines = [x for x in items if x.inside and x.i.id == plan.ingredient and x.use == "wet"]
    if not lines:
        return None
    most = max(lines, key=lambda x: x.grams)
    return HeldBack(line=most.at, ingredient=plan.ingredient, name=plan.name, grams=min(plan.hold_g, most.grams))


def _judge(j: Judged, held: HeldBack | None, mixing: Mixing) -> Operation:
    then = (
        "Thicker than that, it gets what was held back, a little at a time."
        if held
        else "Too thick, it wants a spoon of liquid" + ("; too thin, a spoon of flour." if any(x.i.is_flour for x in mixing.items) else ".")
    )
    if j.by_plate and j.now_cm is not None:
        out = ", what is held back still out" if held else ""
        aim = f"; rested, with all of it in, about {j.aim_cm:.1f} cm" if j.aim_cm is not None else ""
        text = f"60 mL on a cold plate should run to about {j.now_cm:.1f} cm {j.minute:.0f} minutes after the mixing{out}{aim}. {then}"
    else:
        text = f"{j.why} It should fall from the spoon {'a little thicker than the folded batter' if mixing.foam else 'as this batter should'}. {then}"
    takes = ("weigh_held",) if held else ()
    return Operation(
        id="judge", kind="judge", vessel=mixing.pot, title="Judge the bowl", text=text, why=f"{cap(mixing.differ())} differ from day to day.", takes=takes,
        after=(mixing.last, *takes), hands_min=1.5, done_when="it falls as it should",
    )  # fmt: skip


def _rest(a: Analysis, mixing: Mixing, rest: float, moment: Moment, items: list[Item], facts: ProcessFacts) -> Operation:
    slow = [x for x in items if x.inside and x.i.is_drinker and x.i.absorption_minutes >= 10]
    first = (
        f"{slow[0].i.short[:1].upper()}{slow[0].i.short[1:]} is slow to drink."
        if slow
        else "The flour drinks" + (" and the bubbles settle." if mixing.gluten or a.lift.co2_ml > 0 else ".")
    )
    lasts = a.lift.latest_min
    why = first + (
        f" The leavening keeps 85 % of its lift for about {lasts:.0f} minutes."
        if mixing.powders and lasts is not None and moment == "dry"
        else ""
    )
    cold = a.batter.rest_c < 10
    rises = [x for x in items if x.inside and x.yeast]
    if rises:
        rest = max(rest, rise_minutes(a, facts))
        why = "Yeast lifts it, with time and warmth: its gas is not reckoned here."
    title, text = (
        ("Rise", f"Let it stand until it has doubled: about {rest:.0f} minutes at {a.batter.rest_c:.0f} °C.")
        if rises
        else ("Rest", f"Let it stand {rest:.0f} minutes" + (", covered and cold." if cold else "."))
    )
    return Operation(
        id="rest", kind="rest", vessel=mixing.pot, title=title, text=text, why=why, wait_min=rest, hands_min=0.0, after=("judge",), lines=tuple(x.at for x in slow),
        done_when="it has doubled" if rises else "",
        cautions=(facts.safety.words("hold"),) if rest > 60 * facts.safety.between.hours and not cold else (),
    )  # fmt: skip


def rise_minutes(a: Analysis, facts: ProcessFacts) -> float:
    """Minutes until a yeasted batter has doubled [min]: inverse to the yeast on its flour, twice as fast for ten degrees more."""
    y = facts.process.yeast
    flour = sum(p.grams for p in a.bowl.portions if p.ingredient.is_flour)
    dried = sum(
        p.grams / (y.fresh if p.ingredient.id == "fresh_yeast" else 1.0)
        for p in a.bowl.portions
        if p.ingredient.id in ("dried_yeast", "fresh_yeast")
    )
    if flour <= 0 or dried <= 0:
        return y.least
    minutes = y.minutes * y.share / (dried / flour) * 2 ** ((y.at_c - a.batter.rest_c) / 10)
    return float(5 * round(min(y.most, max(y.least, minutes)) / 5))


def _known(found: list[Operation]) -> list[Operation]:
    """The operations, each waiting and taking only what there is before it."""
    seen: set[str] = set()
    kept = []
    for o in found:
        if o.kind != "weigh" or o.portions:
            kept.append(replace(o, takes=tuple(x for x in o.takes if x in seen), after=tuple(x for x in o.after if x in seen)))
            seen.add(o.id)
    return kept


def _longest(found: list[Operation]) -> float:
    """The longest chain [min]: what cannot be done at the same time."""
    end: dict[str, float] = {}
    for o in found:
        end[o.id] = o.minutes + max((end[x] for x in o.after), default=0.0)
    return max(end.values(), default=0.0)
