"""Six weeks of the guest house: batches made from the core by a kitchen of the demo's own, with a griddle that grows cool, powder that is
left out once, and liquid misread twice. Every figure follows from the plan and a seeded die; nothing is typed."""

import random
from collections.abc import Callable, Sequence

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.water import water
from mutabilis.core.batter.bowl import fill
from mutabilis.core.batter.main_liquid import main_liquid
from mutabilis.core.facts import AllFacts
from mutabilis.core.heat.largest_piece import largest_piece
from mutabilis.core.heat.pieces import piece_on, surfaces_for
from mutabilis.core.measures.profile import Profile
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.events import (
    BowlJudged,
    Event,
    FaultsSeen,
    Finished,
    HeatOn,
    HeatRead,
    Kept,
    LoadOn,
    Noted,
    Off,
    Poured,
    Rated,
    StepDone,
    SurfaceChosen,
    Turned,
)
from mutabilis.store.book import Book
from mutabilis.store.stove import Closing, Stove

DAY_S = 86_400.0
DAYS = 42
BATCHES = 60
COOLER_C = 0.9  # how much cooler the griddle is from batch to batch, towards the end
MOST_LOADS = 14
COOKS = ("Wren", "Tam")  # Tam comes every fifth morning
LOTS = ("egg", "wheat_flour", "milk", "plant_milk")  # whose packs the house writes down
Reckon = Callable[[Batch, Sequence[Event]], tuple[Sequence[Event], Closing | None]]


def fill_weeks(
    book: Book,
    stove: Stove,
    facts: AllFacts,
    now: float,
    reckon: Reckon,
    batches: int = BATCHES,
    begun: Callable[[Batch], None] = lambda _: None,
) -> int:
    """Put the log of the last six weeks into a book without one; how many batches. `begun` is told each as it begins."""
    if stove.log(0, 1)[1]:
        return 0
    dice = random.Random(30)
    entries = sorted((e for e in book.entries(book.newest()) if e.versions), key=lambda e: e.name)
    made = 0
    for n in range(batches):
        entry = entries[min(n % 3 if n % 4 else n % len(entries), len(entries) - 1)]
        version = book.version(entry.versions[0 if n < batches / 3 else -1].id)
        at = now - DAY_S * DAYS * (1 - n / batches) - dice.uniform(0, 3600)
        batch = stove.start(
            None,
            version.id,
            version.batter,
            version.diets,
            dice.choice(("night observers", "walkers", "", "the house")),
            None,
            "two_bowls",
            at,
            cook=COOKS[n % 5 // 4],
        )
        begun(batch)
        events = _events(batch, facts, dice, n / batches)
        if events:
            stove.append(batch.id, events, at + 7200, reckon)
            made += 1
    return made


def _events(batch: Batch, facts: AllFacts, dice: random.Random, age: float) -> list[Event]:
    """What happens to one batch; `age` from 0 (six weeks ago) to 1."""
    a = analyse(batch.plan, facts, Profile(), {})
    surface = next(iter(surfaces_for(batch.plan.form, facts.surfaces, batch.plan.tray)), None)
    piece = largest_piece(a, facts, surface) if surface else None
    if surface is None or piece is None:
        return []
    lines = [(n, x) for n, x in enumerate(batch.plan.lines) if x.counts and x.grams > 0]
    known = facts.ingredients
    liquid = main_liquid((n, known[x.ingredient or ""], x.grams) for n, x in lines)
    wrong = dice.choices(("", "liquid", "powder", "early"), (17, 1.5, 1, 1.5))[0]
    moment, count = batch.started, 0
    found: list[Event] = []

    def add(make: Callable[..., Event], seconds: float, **fields: object) -> None:
        nonlocal moment, count
        moment, count = moment + seconds, count + 1
        found.append(make(id=f"{dice.getrandbits(40):010x}{count:06x}", at=moment, **fields))

    factor = {n: dice.gauss(1, 0.008) for n, _ in lines}
    if wrong == "liquid" and liquid is not None:
        factor[liquid] = 0.78
    powder = next((n for n, x in lines if known[x.ingredient or ""].group == "leavener"), None)
    if wrong == "powder" and powder is not None:
        factor[powder] = 0.25
    for n, x in lines:
        i = known[x.ingredient or ""]
        lot = (
            f"{i.short}, lot {40 + int(age * DAYS / 7)}" if i.group in LOTS and dice.random() < 0.9 else None
        )  # now and then nobody looked
        add(Poured, dice.uniform(8, 25), line=n, slot=0, grams=round(x.grams * factor[n], 1 if x.grams < 20 else 0), pack=lot)
    add(HeatOn, 5)
    add(StepDone, dice.uniform(40, 80), key="mix", wets=True)
    poured = [x.model_copy(update={"grams": x.grams * factor.get(n, 1.0)}) for n, x in enumerate(batch.plan.lines)]
    spread = water(fill(batch.plan.model_copy(update={"lines": tuple(poured), "rest_min": 5.0}), facts)).spread_cm
    if spread is not None and 8 < spread < 18:
        add(BowlJudged, 300, way="spread", value=round(spread + dice.gauss(0, 0.3), 1))
    heat = piece.celsius - (COOLER_C * BATCHES * max(0.0, age - 0.5) if surface.kind == "griddle" else 0.0) + dice.gauss(0, 3)
    lies = piece_on(a, surface, piece.portion_ml, "film", facts).per_load
    add(SurfaceChosen, 20, surface=surface, celsius=round(piece.celsius), portion_ml=piece.portion_ml, per_load=lies)
    add(HeatRead, max(60.0, 60 * a.bowl.rest_min - 320), celsius=round(heat))
    early = 0.62 if wrong == "early" and piece.turn_s else 1.0
    loads = max(1, min(MOST_LOADS, round(a.yields.pieces / max(1, lies))))
    good = 0
    for n in range(loads):
        add(LoadOn, dice.uniform(10, 60) + surface.recover_s, load=n, pieces=lies, portion_ml=piece.portion_ml)
        slow = 1 + max(0.0, (piece.celsius - heat) / 160)
        turn = (piece.turn_s or 0) * early * slow * dice.gauss(1, 0.05)
        if piece.turn_s and batch.plan.form in ("griddle", "crepe"):
            add(Turned, turn, load=n)
        add(Off, max(15.0, piece.done_s * slow * dice.gauss(1, 0.05) - turn), load=n, good=lies - (dice.random() < 0.15))
        good += lies
    faults = _faults(wrong, piece.celsius - heat, dice)
    if faults:
        add(FaultsSeen, 30, faults=faults)
    add(Rated, 20, stars=max(1, 5 - len(faults) - (dice.random() < 0.2)))
    if wrong == "early":
        add(Noted, 5, text="Guests were early; turned in a hurry.")
    if dice.random() < 0.6 and age > 0.82:  # what is older was eaten
        add(Kept, 20, what="pieces_cold", amount=2, until=moment + 3 * DAY_S)
    add(Finished, 30)
    return found


def _faults(wrong: str, cooler: float, dice: random.Random) -> tuple[str, ...]:
    by = {"liquid": ("thick", "dense"), "powder": ("flat", "dense"), "early": ("raw", "pale"), "": ()}[wrong]
    if not by and cooler > 18 and dice.random() < 0.7:
        return ("pale",)
    return tuple(f for f in by if dice.random() < 0.85)
