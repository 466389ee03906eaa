"""What the Stove shows of a batch: the guide's parts in one shape, nothing computed that the core has not."""

from dataclasses import dataclass

from mutabilis.core.batter.batter import Moment
from mutabilis.core.diets.pack_questions import questions
from mutabilis.core.diets.verdicts import Verdict, worst
from mutabilis.core.food.learning import Lesson
from mutabilis.core.heat.fats import Fat, fats_offered
from mutabilis.core.heat.largest_piece import LargestPiece, largest_piece, workable
from mutabilis.core.heat.pieces import Piece
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.heat.tables import GreaseKey
from mutabilis.core.measures.profile import Profile
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.cooking import SIGNS, HeatAdvice, Run
from mutabilis.core.stove.events import Kept, Stage, SurfaceChosen
from mutabilis.core.stove.fold import Load
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.keeping import Keeping
from mutabilis.core.stove.mending import Moved
from mutabilis.core.stove.parts import Judging, MixStep, MomentChoice, PanStep, Timer, VesselView, WeighLine
from mutabilis.core.stove.ready import Clockwork, Prep
from mutabilis.core.stove.resting import Window
from mutabilis.core.stove.tables import EyeStep

from .context import Context

TOLD = ("flow", "lift", "set", "sweetness", "fat", "salt")


@dataclass(frozen=True, slots=True, kw_only=True)
class Guest:
    """A diet of the batch's guests and its verdict on what will be on the plate, with the first reason."""

    key: str
    label: str
    verdict: Verdict
    reason: str
    pack_says: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Option:
    """A surface that this batter can be cooked on, how a piece lies on it, and the heat [°C] nearest to the usual one that cooks it through
    before it burns (None where none does: then a smaller piece is named); `over` where it is more than an iron takes."""

    surface: Surface
    piece: Piece
    celsius: float | None
    smaller: str
    over: str


@dataclass(frozen=True, slots=True)
class Scoop:
    """A scoop of this kitchen, by its name and what it holds [mL]."""

    label: str
    ml: float


@dataclass(frozen=True, slots=True)
class GreaseOption:
    """A way to grease, in words."""

    key: GreaseKey
    label: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Times:
    """How a piece cooks by the reckoning [s], its browning, and the verdict."""

    turn_s: float | None
    done_s: float | None
    first_brown: float
    second_brown: float
    verdict: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Resting:
    """The rest: its window, when the flour and the leavening were wetted, when it began and ended [s since 1970], the lift left now, and what to do where it has passed its window."""

    window: Window
    wet_at: float | None
    leavened_at: float | None
    started: float | None
    ended: float | None
    lift_now: float | None
    late: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CookingView:
    """The cooking: what it can be done on and with, what was chosen, how it stands."""

    options: tuple[Option, ...]
    greases: tuple[GreaseOption, ...]
    fats: tuple[Fat, ...]
    chosen: SurfaceChosen | None
    celsius: float | None
    heat_on: float | None
    piece: Piece | None
    largest: LargestPiece | None
    times: Times | None
    run: Run | None
    tried: HeatAdvice | None
    loads: tuple[Load, ...]
    pan_steps: tuple[PanStep, ...]
    smoke: str
    signs: tuple[str, ...]
    test_ml: float
    scoops: tuple[Scoop, ...]
    density: float
    heat_left_s: float | None
    next_fill: float | None


@dataclass(frozen=True, slots=True)
class FaultWord:
    """A fault that a piece can have, in a word."""

    key: str
    label: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Finishing:
    """The end of a batch: the faults there are and those seen, stars, note, what can be kept and what was, and what it taught."""

    faults: tuple[FaultWord, ...]
    seen: tuple[str, ...]
    stars: int | None
    note: str
    keeping: tuple[Keeping, ...]
    kept: tuple[Kept, ...]
    lessons: tuple[Lesson, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TableView:
    """For whom it is: each guest's verdict on what will be on the plate, the worst of them, what it holds and may hold, and the cautions."""

    guests: tuple[Guest, ...]
    verdict: Verdict
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]
    warnings: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadyView:
    """What needs time first, and the morning counted back."""

    prep: tuple[Prep, ...]
    clockwork: Clockwork | None


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighingView:
    """What is weighed out: its vessels, the lines in them, the line and the part of it in turn, and what must be mixed before it, where the
    scale stood at nought (None: for this vessel not yet), what is in, why targets moved, and what the balances come to."""

    with_scale: bool
    vessels: tuple[VesselView, ...]
    lines: tuple[WeighLine, ...]
    current: int | None
    part: str | None
    before: MixStep | None
    zero: float | None
    bowl_g: float
    why: str
    balances: tuple[Moved, ...]
    pieces: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MixingView:
    """The mixing: its steps, what is not in yet, what comes after the rest, when the leavening can go in and when it does, whether that can
    still be chosen, and since when the hands are washed."""

    steps: tuple[MixStep, ...]
    missing: tuple[str, ...]
    last: tuple[MixStep, ...]
    moment_open: bool
    moments: tuple[MomentChoice, ...]
    moment: Moment
    hands: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchView:
    """A batch at a moment (`now`, seconds since 1970), each stage by itself. `count` is the number of its events: two screens with one count show
    one batch. `undo` and `redo` are the events that they would take back, `undo_kind` what that was."""

    id: str
    version_id: str
    batter_id: str
    name: str
    number: int
    form: str
    form_label: str
    whom: str
    from_mix: str
    mark: int
    started: float
    finished: float | None
    first_at: float | None
    now: float
    count: int
    stage: Stage
    undo: str | None
    undo_kind: str | None
    redo: str | None
    timers: tuple[Timer, ...]
    table: TableView
    ready: ReadyView
    weighing: WeighingView
    mixing: MixingView
    judging: Judging
    eye: tuple[EyeStep, ...]
    judged: int
    resting: Resting
    cooking: CookingView
    finishing: Finishing


@dataclass(frozen=True, slots=True, kw_only=True)
class Brief:
    """A batch in the row of those under way."""

    id: str
    name: str
    number: int
    form_label: str
    whom: str
    mark: int
    stage: Stage
    started: float
    first_at: float | None
    timers: tuple[Timer, ...]


def brief(g: Guide) -> Brief:
    """A batch in the row of those under way."""
    b = g.batch
    return Brief(
        id=b.id,
        name=b.name,
        number=b.number,
        form_label=g.facts.forms[b.plan.form].label,
        whom=b.whom,
        mark=b.mark,
        stage=g.state.stage,
        started=b.started,
        first_at=g.state.first_at,
        timers=g.timers,
    )


def batch_view(g: Guide, here: Context) -> BatchView:
    """A batch as shown."""
    b, s, facts = g.batch, g.state, g.facts
    guests = _guests(g, here)
    after = {x.key: x for x in g.to_be.ledgers}
    balances = tuple(
        Moved(key=x.key, label=x.label, unit=x.mark_unit, before=x.mark, after=after[x.key].mark, verdict=after[x.key].verdict)
        for x in g.planned.ledgers
        if x.key in TOLD
    )
    table = TableView(
        guests=guests, verdict=worst(x.verdict for x in guests), contains=g.to_be.plate.contains, may_contain=g.to_be.plate.may_contain,
        warnings=tuple(w.text for w in g.to_be.warnings),
    )  # fmt: skip
    weighing = WeighingView(
        with_scale=s.with_scale, vessels=g.vessels, lines=g.lines, current=g.current.at if g.current else None, part=g.current.part if g.current else None, before=g.before_pour, zero=g.zero, bowl_g=s.bowl_g, why=s.why, balances=balances,
        pieces=g.to_be.yields.pieces,
    )  # fmt: skip
    return BatchView(
        id=b.id, version_id=b.version_id, batter_id=b.batter_id, name=b.name, number=b.number, form=b.plan.form, form_label=facts.forms[b.plan.form].label, whom=b.whom, from_mix=f"from {b.mix.grams:.0f} g of dry mix" if b.mix else "", mark=b.mark,
        started=b.started, finished=s.finished, first_at=s.first_at, now=g.now, count=s.count, stage=s.stage, undo=s.last, undo_kind=next((e.kind for e in b.events if e.id == s.last), None), redo=s.redo, timers=g.timers, table=table,
        ready=ReadyView(prep=g.preparations, clockwork=g.clockwork), weighing=weighing,
        mixing=MixingView(steps=g.mixing, missing=g.missing, last=g.last_steps, moments=g.moments, moment=g.moment, moment_open=g.moment_open, hands=s.steps.get("hands")), judging=g.judging, eye=facts.stove.eye, judged=len(s.judged),
        resting=Resting(window=g.rest, wet_at=s.wet_at, leavened_at=s.leavened_at, started=s.rest_started, ended=s.rest_ended, lift_now=g.lift_now, late=g.late), cooking=_cooking(g, here),
        finishing=_finishing(g),
    )  # fmt: skip


def _guests(g: Guide, here: Context) -> tuple[Guest, ...]:
    found = []
    for key in g.batch.diets:
        rule = g.facts.diets.get(key)
        if rule is None:
            found.append(
                Guest(
                    key=key,
                    label=key,
                    verdict="cannot_vouch",
                    reason="This diet is no longer in the kitchen, so nothing is confirmed for it.",
                    pack_says=(),
                )
            )
            continue
        j = g.to_be.plate.diets[key]
        told = next((r for r in j.reasons if r.verdict == j.verdict), None)
        line = g.to_be.batter.lines[told.line] if told is not None and told.line is not None else None
        i = g.facts.ingredients.get(line.ingredient or "") if line else None
        says = questions(i, [rule], g.profile, here.readings.get(i.id)) if i is not None and j.verdict == "cannot_vouch" else ()
        reason = "" if told is None or j.verdict == "fits" else told.text
        found.append(Guest(key=key, label=rule.label, verdict=j.verdict, reason=reason, pack_says=says))
    return tuple(found)


def _cooking(g: Guide, here: Context) -> CookingView:
    s, r = g.state, g.reckoned
    times = (
        None
        if r is None
        else Times(turn_s=r.turn_s, done_s=r.done_s, first_brown=r.first_brown, second_brown=r.second_brown, verdict=r.verdict)
    )
    chosen_piece = None if s.chosen is None else g.piece(s.chosen.surface, s.chosen.portion_ml, s.chosen.grease)
    return CookingView(
        options=tuple(option(x, g) for x in g.surfaces),
        greases=tuple(GreaseOption(k, x.label) for k, x in g.facts.heat.grease.items()),
        fats=_fats(g, here), chosen=s.chosen, celsius=s.celsius, heat_on=s.heat_on, piece=chosen_piece, largest=g.largest, times=times, run=g.run, tried=g.tried, loads=s.loads, pan_steps=g.pan_steps, smoke=g.smoke_words,
        signs=(*SIGNS[g.plan.form], *((s.chosen.surface.lamp + ".",) if s.chosen and s.chosen.surface.lamp else ()), g.facts.safety.words("end_sign")),
        test_ml=g.facts.stove.time.test_share * g.planned.yields.portion_ml, scoops=scoops(g.profile), density=g.to_be.yields.density_g_per_ml,
        heat_left_s=g.heat_left_s, next_fill=g.next_fill,
    )  # fmt: skip


def option(surface: Surface, g: Guide, portion_ml: float | None = None, grease: GreaseKey = "film") -> Option:
    """How a piece lies on a surface and at which heat it works, in the scoop asked for or the usual one [mL]."""
    piece = g.piece(surface, portion_ml, grease)
    works = workable(piece.thickness_mm, g.plan.form, surface, g.facts)
    largest = None if works else largest_piece(g.to_be, g.facts, surface)
    return Option(surface, piece, works.celsius if works else None, largest.words if largest else "", g.too_much(surface, piece.portion_ml))


def scoops(profile: Profile) -> tuple[Scoop, ...]:
    """The scoops of a kitchen: its spoons and cups, and its ladle where that was weighed."""
    own = () if profile.ladle_ml is None else (Scoop("the ladle", profile.ladle_ml),)
    spoons = (Scoop("2 tbsp", 2 * profile.tbsp_ml),)
    cups = tuple(
        Scoop(f"{part} cup", share * profile.cup_ml) for part, share in (("1/4", 0.25), ("1/3", 1 / 3), ("1/2", 0.5), ("3/4", 0.75))
    )
    return (*own, *spoons, *cups)


def _fats(g: Guide, here: Context) -> tuple[Fat, ...]:
    rules = [g.facts.diets[k] for k in g.batch.diets if k in g.facts.diets]
    celsius = g.state.celsius or max((s.usual_c for s in g.surfaces), default=0.0)
    found = fats_offered(g.facts, rules, g.profile, here.readings, here.in_stock(), celsius)
    plate = {line.ingredient for line in g.plan.lines if line.where == "plate"}
    return tuple(sorted(found, key=lambda f: f.id not in plate))  # what the plate says comes first


def _finishing(g: Guide) -> Finishing:
    s = g.state
    faults = tuple(FaultWord(k, w) for k, w in g.facts.stove.faults.items())
    return Finishing(faults=faults, seen=s.faults, stars=s.stars, note=s.note, keeping=g.keeping, kept=s.kept, lessons=g.lessons)


def guided(batch: Batch, here: Context) -> Guide:
    """The guide of a batch at this moment, by what this kitchen knows."""
    return Guide(batch, here.clock.now(), here.facts, here.profile(), here.readings, here.learned, here.recent)
