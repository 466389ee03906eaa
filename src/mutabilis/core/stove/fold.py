"""The state of a batch: a fold over its events. No clock, no device, no solver: what was found out stands in the events."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from ..balances.holdback import measured_sd
from ..batter.batter import Batter, BatterLine, Moment
from ..food.ingredients import Ingredient
from .events import (
    BowlJudged,
    By,
    Care,
    Cared,
    Event,
    FaultsSeen,
    Fill,
    Filled,
    Finished,
    FirstPiece,
    HeatOn,
    HeatRead,
    HeatSet,
    Inside,
    Kept,
    LoadOn,
    MomentChosen,
    NoneLeft,
    Noted,
    Off,
    Poured,
    PrepDone,
    PrepStarted,
    Rated,
    RestEnded,
    RestStarted,
    Retargeted,
    ScaleUsed,
    Stage,
    StepDone,
    SurfaceChosen,
    Tared,
    TestJudged,
    Turned,
    Undone,
    Went,
)
from .tables import Colour


@dataclass(frozen=True, slots=True, kw_only=True)
class LineState:
    """A line of the batch: what it is to weigh and what of it is in the bowl [g], by what means, done or none left; `held` where the rest
    of it is kept back in a cup; `parts` is what went where [g], by the operation that took it, `closed` those that have all of theirs;
    `reopened` where it had all of it and is to have more; `pours` are those that stand, `slot` the number of the next."""

    at: int
    ingredient: str
    planned: float
    target: float
    poured: float = 0.0
    by: By | None = None
    done: bool = False
    none_left: bool = False
    held: bool = False
    parts: Mapping[str, float] = field(default_factory=dict)
    closed: frozenset[str] = frozenset()
    reopened: bool = False
    pours: int = 0
    slot: int = 0

    @property
    def settled(self) -> bool:
        """No more of it comes: done, or none left, or nothing wanted."""
        return self.done or self.none_left or (self.target <= 0 and self.poured <= 0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Load:
    """A load: when it went on, was turned and came off [s], the heat as it was set then [°C], its pieces of `portion_ml` [mL] and
    how many were good; how it filled its iron."""

    n: int
    on: float
    pieces: int
    test: bool = False
    portion_ml: float | None = None
    celsius: float | None = None
    turned: float | None = None
    off: float | None = None
    good: int = 0
    colour: Colour | None = None
    inside: Inside | None = None
    fill: Fill | None = None


@dataclass(frozen=True, slots=True)
class PrepState:
    """Something that needs time: begun and done when [s]."""

    started: float | None = None
    done: float | None = None


@dataclass(frozen=True, slots=True)
class Judgement:
    """A judgement, and what of each line was in the bowl then [g]."""

    event: BowlJudged
    poured: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class State:
    """What a batch has come to. `last` is the event that undo would take back, `redo` the one that redo would let stand again."""

    stage: Stage = "ready"
    with_scale: bool = True
    first_at: float | None = None
    lines: tuple[LineState, ...] = ()
    prep: dict[str, PrepState] = field(default_factory=dict)
    steps: dict[str, float] = field(default_factory=dict)
    zero: float | None = None
    zero_part: str | None = None
    taring: int | None = None
    moment: Moment | None = None
    wet_at: float | None = None
    leavened_at: float | None = None
    judged: tuple[Judgement, ...] = ()
    rest_started: float | None = None
    rest_ended: float | None = None
    chosen: SurfaceChosen | None = None
    heat_on: float | None = None
    celsius: float | None = None
    read_c: float | None = None
    loads: tuple[Load, ...] = ()
    cared: tuple[tuple[Care, float, int], ...] = ()
    faults: tuple[str, ...] = ()
    stars: int | None = None
    note: str = ""
    kept: tuple[Kept, ...] = ()
    finished: float | None = None
    why: str = ""
    count: int = 0
    last: str | None = None
    redo: str | None = None

    @property
    def bowl_g(self) -> float:
        """What is in the bowl [g], before any of it was cooked."""
        return sum(line.poured for line in self.lines)

    @property
    def made(self) -> int:
        """Pieces that came off good; test pieces are cut and looked at."""
        return sum(load.good for load in self.loads if load.off is not None and not load.test)

    @property
    def laid(self) -> int:
        """Pieces that went on, test pieces left out."""
        return sum(load.pieces for load in self.loads if not load.test)


def standing(events: Sequence[Event]) -> list[Event]:
    """The events that stand: those not taken back, by an `undone` that was not itself taken back; what was done because of an event falls
    with it. An event that comes twice counts once."""
    dead: set[str] = set()
    first: dict[str, Event] = {}
    for e in events:
        first.setdefault(e.id, e)
    once = list(first.values())
    place = {e.id: n for n, e in enumerate(once)}
    for n in range(len(once) - 1, -1, -1):
        e = once[n]
        if isinstance(e, Undone) and e.id not in dead and place.get(e.event, n) < n:
            dead.add(e.event)
    for e in once:
        if e.because is not None and e.because in dead:
            dead.add(e.id)
    return [e for e in once if e.id not in dead and not isinstance(e, Undone)]


def fold(plan: Batter, events: Sequence[Event], first_at: float | None = None) -> State:
    """What a batch of this plan has come to. Any order, any repetition and any taking back of events gives a state; nothing raises."""
    now = _Fold(plan, first_at)
    for e in events:
        if isinstance(e, Poured):
            now.see(e)
    stand = standing(events)
    for e in stand:
        now.take(e)
    return now.state(events, stand)


class _Fold:
    def __init__(self, plan: Batter, first_at: float | None) -> None:
        self.kept_lines: list[LineState] = [
            LineState(at=at, ingredient=line.ingredient or "", planned=line.grams if line.counts else 0.0, target=line.grams if line.counts else 0.0)
            for at, line in enumerate(plan.lines)
        ]  # fmt: skip
        self.owners: dict[tuple[int, int], str] = {}
        self.s: dict[str, object] = {"first_at": first_at}
        self.prep: dict[str, PrepState] = {}
        self.steps: dict[str, float] = {}
        self.judged: list[Judgement] = []
        self.loads: dict[int, Load] = {}
        self.cared: list[tuple[Care, float, int]] = []
        self.kept: list[Kept] = []

    def see(self, e: Poured) -> None:
        """A pour's slot belongs to the first that named it, for good: a second screen's copy never counts, not even when the first is
        taken back."""
        self.owners.setdefault((e.line, e.slot), e.id)

    def take(self, e: Event) -> None:
        match e:
            case Went():
                self.s["stage"] = e.stage
            case FirstPiece():
                self.s["first_at"] = e.first_at
            case ScaleUsed():
                self.s["with_scale"] = e.on
            case PrepStarted():
                self.prep.setdefault(e.key, PrepState(e.at))  # what is begun, or done, is not begun again
            case PrepDone():
                was = self.prep.get(e.key, PrepState())
                if was.done is None:
                    self.prep[e.key] = PrepState(was.started, max(e.at, was.started or e.at))
            case Tared():
                self.s |= {"zero": e.gross, "zero_part": e.part, "taring": e.line}
            case Poured():
                self._pour(e)
            case NoneLeft():
                self._line(e.line, none_left=True, held=False)
            case Retargeted():
                self._retarget(e)
            case StepDone():
                self.steps.setdefault(e.key, e.at)
                if e.wets:
                    self.s.setdefault("wet_at", e.at)
                if e.leavens:
                    self.s.setdefault("leavened_at", e.at)
            case MomentChosen():
                self.s["moment"] = e.moment
            case BowlJudged():
                self.judged.append(Judgement(e, tuple(x.poured for x in self.kept_lines)))
            case RestStarted():
                self.s |= {"rest_started": e.at, "rest_ended": None}
            case RestEnded():
                if self.s.get("rest_started") is not None:
                    self.s["rest_ended"] = max(e.at, float(self.s["rest_started"]))  # type: ignore[arg-type]
            case SurfaceChosen():
                self.s |= {"chosen": e, "celsius": e.celsius}
            case HeatOn():
                self.s["heat_on"] = e.at
            case HeatSet():
                self.s["celsius"] = e.celsius
            case HeatRead():
                self.s["read_c"] = e.celsius
            case LoadOn() | Turned() | Off() | TestJudged() | Filled():
                self._load(e)
            case Cared():
                self.cared.append((e.care, e.at, len(self.loads)))
            case FaultsSeen():
                self.s["faults"] = e.faults
            case Rated():
                self.s["stars"] = e.stars
            case Noted():
                self.s["note"] = e.text
            case Kept():
                self.kept = [k for k in self.kept if k.what != e.what] + [e]
            case Finished():
                self.s.setdefault("finished", e.at)
            case _:
                pass

    def _pour(self, e: Poured) -> None:
        if e.line >= len(self.kept_lines) or self.owners.get((e.line, e.slot)) != e.id:
            return
        was = self.kept_lines[e.line]
        self._line(
            e.line,
            poured=max(0.0, was.poured + e.grams),
            by=e.by,
            done=was.done or e.done,
            held=e.held and not was.none_left,
            parts={**was.parts, e.part: max(0.0, was.parts.get(e.part, 0.0) + e.grams)} if e.part else was.parts,
            closed=was.closed | {e.part} if e.part and e.closes else was.closed,
            pours=was.pours + 1,
        )
        if e.gross is not None:
            self.s |= {"zero": e.gross, "zero_part": e.part, "taring": None if e.done or e.closes else e.line}

    def _line(self, at: int, **update: object) -> None:
        if at < len(self.kept_lines):
            self.kept_lines[at] = _with(self.kept_lines[at], **update)

    def _retarget(self, e: Retargeted) -> None:
        for t in e.targets:
            if t.line == len(self.kept_lines):
                self.kept_lines.append(LineState(at=t.line, ingredient=t.ingredient, planned=0.0, target=t.grams))
            elif t.line < len(self.kept_lines) and self.kept_lines[t.line].ingredient == t.ingredient:
                was = self.kept_lines[t.line]
                more = t.grams > was.poured + 1e-6
                self._line(t.line, target=t.grams, done=was.done and not more, reopened=more and (was.done or was.reopened))
        self.s["why"] = e.why

    def _load(self, e: LoadOn | Turned | Off | TestJudged | Filled) -> None:
        was = self.loads.get(e.load)
        if isinstance(e, LoadOn):
            if was is None:
                self.loads[e.load] = Load(
                    n=e.load,
                    on=e.at,
                    pieces=e.pieces,
                    test=e.test,
                    portion_ml=e.portion_ml or (chosen.portion_ml if isinstance(chosen := self.s.get("chosen"), SurfaceChosen) else None),
                    celsius=self.s.get("celsius"),  # type: ignore[arg-type]
                )
            return
        if was is None:
            return
        values: dict[str, object] = {}
        if isinstance(e, Turned) and was.turned is None and was.off is None:
            values["turned"] = max(e.at, was.on)
        elif isinstance(e, Off) and was.off is None:
            values = {"off": max(e.at, was.turned or was.on), "good": min(e.good, was.pieces)}
        elif isinstance(e, TestJudged):
            values = {"colour": e.colour, "inside": e.inside}
        elif isinstance(e, Filled):
            values = {"fill": e.fill}
        self.loads[e.load] = replace(was, **values)  # type: ignore[arg-type]

    def state(self, events: Sequence[Event], stand: Sequence[Event]) -> State:
        lines = tuple(_with(line, slot=self._free(line.at)) for line in self.kept_lines)
        own = [e for e in stand if not self._follows(e)]
        return State(
            lines=lines, prep=self.prep, steps=self.steps, judged=tuple(self.judged), loads=tuple(self.loads[n] for n in sorted(self.loads)),
            cared=tuple(self.cared), kept=tuple(self.kept), count=len(events), last=own[-1].id if own else None,
            redo=_redo(events), **self.s,  # type: ignore[arg-type]
        )  # fmt: skip

    def _free(self, line: int) -> int:
        """The first slot of a line that nobody has named."""
        slot = 0
        while (line, slot) in self.owners:
            slot += 1
        return slot

    def _follows(self, e: Event) -> bool:
        """What nobody takes back by itself: what followed from something else, a mere reading, and a second screen's copy of a pour."""
        copy = isinstance(e, Poured) and self.owners.get((e.line, e.slot)) != e.id
        return copy or isinstance(e, HeatRead) or e.because is not None


def _redo(events: Sequence[Event]) -> str | None:
    """The taking back that a redo would take back: the last one that nothing but takings back has followed."""
    kinds = {e.id: e for e in events}
    back: set[str] = set()
    for e in reversed(events):
        if not isinstance(e, Undone):
            return None
        if e.id not in back:
            back.add(e.event)
            if not isinstance(kinds.get(e.event), Undone):
                return e.id
    return None


def _with(line: LineState, **update: object) -> LineState:
    return replace(line, **update)  # type: ignore[arg-type]


# ---- the batter as it stands


def in_bowl(plan: Batter, state: State, known: Mapping[str, Ingredient]) -> Batter:
    """The batter of what is in the bowl now, each line as sure as it was measured."""
    return _batter(plan, state, known, lambda line: line.poured)


def will_be(plan: Batter, state: State, known: Mapping[str, Ingredient]) -> Batter:
    """The batter that it will be: what is in the bowl, and what is still to come."""
    return _batter(plan, state, known, lambda line: line.poured if line.settled and not line.held else max(line.poured, line.target))


def _batter(plan: Batter, state: State, known: Mapping[str, Ingredient], grams_of: Callable[[LineState], float]) -> Batter:
    lines: list[BatterLine] = []
    for line in state.lines:
        grams = grams_of(line)
        old = plan.lines[line.at] if line.at < len(plan.lines) else BatterLine(text=line.ingredient, ingredient=line.ingredient)
        if not line.ingredient or (line.at < len(plan.lines) and not old.counts):
            lines.append(old)
            continue
        i = known[line.ingredient]
        sd = measured_sd(i, line.poured, "cups" if line.by in ("measure", "spoon") else "scale") if line.by else (old.high - old.low) / 4
        low, high = max(0.0, grams - 2 * sd), grams + 2 * sd
        lines.append(
            old.model_copy(
                update={"grams": grams, "low": low, "high": high, "text": old.text if grams == old.grams else f"{grams:.4g} g {i.short}"}
            )
        )
    return plan.model_copy(update={"lines": tuple(lines)})
