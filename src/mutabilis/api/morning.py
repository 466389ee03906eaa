"""Morning: who comes, the plan that serves them, and what happens on the day."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.food.allergen_tokens import ALLERGENS
from mutabilis.core.journal.served import Served
from mutabilis.core.service.acts import Act, acts
from mutabilis.core.service.ahead import Ahead, made_ahead, side_acts
from mutabilis.core.service.at_stove import in_the_bowl, served_by, taken_back
from mutabilis.core.service.evening import EveningMix, evening_mixes, takes
from mutabilis.core.service.guests import Unread, read_guests
from mutabilis.core.service.hours import DAY, Hour, spoken
from mutabilis.core.service.inputs import faults_of
from mutabilis.core.service.live import Happening, from_stove, moved, standing, wishes_now
from mutabilis.core.service.needs import clash, minds_of
from mutabilis.core.service.plan import Change, Plan
from mutabilis.core.service.planning import plans
from mutabilis.core.service.solve import Effort
from mutabilis.core.service.wishes import Guest, Need, Person, Service
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.fold import fold
from mutabilis.store.mornings import KeptGuest, Morning, Wished

from .context import PROBLEMS, Context, Here
from .stove import happened as at_the_stove

router = APIRouter(prefix="/api/morning", responses=PROBLEMS, tags=["morning"])
OVER_S = 3600  # after the last hour a morning is over
KEPT_DAYS = 30  # a guest is forgotten so long after their last morning here, where nobody says otherwise
Text = Annotated[str, Field(max_length=20_000)]
DayPath = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]


@dataclass(frozen=True, slots=True, kw_only=True)
class GuestView:
    """A guest with what they get and whether it suits them: `standing` for a guest of the wishes, else one who came on the day."""

    id: str
    name: str
    at: str
    table: str
    pieces: int
    form: str | None
    needs: tuple[Need, ...]
    forget: str
    gets: str
    fits: bool
    served: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StationView:
    """A surface: its places, what it has met, whether it still heats."""

    id: str
    name: str
    kind: str
    places: int
    met: tuple[str, ...]
    dead: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferView:
    """A batter that can be made."""

    id: str
    name: str
    form: str
    contains: tuple[str, ...]
    adapted: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ToBuy:
    """How much of a thing the morning takes [g], and what the Larder has of it (None where that is not kept)."""

    name: str
    grams: float
    have_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MorningView:
    """A morning as a screen shows it; `now` in seconds of its day (below 0 before it, above 86400 after it)."""

    day: str
    today: str
    now: int
    start: str
    guests: tuple[GuestView, ...]
    people: tuple[Person, ...]
    stations: tuple[StationView, ...]
    cold: tuple[str, ...]
    offers: tuple[OfferView, ...]
    plan: Plan | None
    planning: bool
    trouble: str
    acts: tuple[Act, ...]
    mixes: tuple[EveningMix, ...]
    ahead: tuple[Ahead, ...]
    buy: tuple[ToBuy, ...]
    can_undo: str
    said: str


class AskedGuests(BaseModel):
    """Guests as text, a line each; the hour of whoever names none, and the day after which they are forgotten."""

    model_config = ConfigDict(extra="forbid")

    text: Text
    at: Hour | None = None
    forget: DayPath | None = None


class Added(BaseModel):
    """The morning with its new guests, and the lines that are not understood."""

    morning: MorningView
    unread: tuple[Unread, ...]


class ChangedGuest(BaseModel):
    """What changes of a guest: a whole line again, or single things."""

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=500)] | None = None
    forget: DayPath | None = None


class ChangedMorning(BaseModel):
    """What changes of a morning; None leaves it."""

    model_config = ConfigDict(extra="forbid")

    start: Hour | None = None
    people: Annotated[tuple[Person, ...], Field(min_length=1, max_length=20)] | None = None
    cold: Annotated[tuple[str, ...], Field(max_length=60)] | None = None
    met: dict[str, Annotated[tuple[str, ...], Field(max_length=20)]] | None = None


class Taken(BaseModel):
    """The changes of a remedy that was chosen."""

    model_config = ConfigDict(extra="forbid")

    changes: Annotated[tuple[Change, ...], Field(min_length=1, max_length=300)]


@router.get("/{day}")
def morning(day: DayPath, here: Here) -> MorningView:
    """A morning as it stands."""
    return view_of(morning_of(day, here), here)


@router.post("/{day}/guests")
def add_guests(day: DayPath, asked: AskedGuests, here: Here) -> Added:
    """Put guests down; lines that are not understood come back, and nobody is put down for them."""
    m = morning_of(day, here)
    guests, unread = read_guests(asked.text, here.morning_kitchen.rules, ALLERGENS, [g.guest.id for g in m.wished.guests], asked.at)
    if len(m.wished.guests) + len(guests) > here.morning_kitchen.rules.limits.guests:
        raise CannotBe(f"a plan holds at most {here.morning_kitchen.rules.limits.guests} guests")
    forget = asked.forget or (date.fromisoformat(day) + timedelta(days=KEPT_DAYS)).isoformat()
    kept = tuple(KeptGuest(guest=g, forget=forget) for g in guests)
    if kept:
        m = _wish(m, m.wished.model_copy(update={"guests": (*m.wished.guests, *kept)}), here)
    return Added(morning=view_of(m, here), unread=unread)


@router.put("/{day}/guests/{guest_id}")
def change_guest(day: DayPath, guest_id: str, changed: ChangedGuest, here: Here) -> Added:
    """Write a guest's line anew, or change the day on which they are forgotten."""
    m = morning_of(day, here)
    was = _guest(m, guest_id)
    now = was
    unread: tuple[Unread, ...] = ()
    if changed.text is not None:
        others = [g.guest.id for g in m.wished.guests if g.guest.id != guest_id]
        found, unread = read_guests(changed.text, here.morning_kitchen.rules, ALLERGENS, others, was.guest.at)
        if unread or len(found) != 1:
            return Added(morning=view_of(m, here), unread=unread or (Unread(line=changed.text, why="one guest to a line"),))
        now = KeptGuest(guest=found[0].model_copy(update={"id": guest_id}), forget=was.forget)
    if changed.forget is not None:
        now = now.model_copy(update={"forget": changed.forget})
    m = _wish(m, m.wished.model_copy(update={"guests": tuple(now if g is was else g for g in m.wished.guests)}), here)
    return Added(morning=view_of(m, here), unread=unread)


@router.delete("/{day}/guests/{guest_id}")
def drop_guest(day: DayPath, guest_id: str, here: Here) -> MorningView:
    """Take a guest out, with all that is known of them here."""
    m = morning_of(day, here)
    gone = _guest(m, guest_id)
    return view_of(_wish(m, m.wished.model_copy(update={"guests": tuple(g for g in m.wished.guests if g is not gone)}), here), here)


@router.patch("/{day}")
def change(day: DayPath, changed: ChangedMorning, here: Here) -> MorningView:
    """Change when the kitchen starts, who cooks, which surfaces stay cold, or what they have met."""
    m = morning_of(day, here)
    update = {k: v for k, v in changed if v is not None}
    return view_of(_wish(m, m.wished.model_copy(update=update), here), here)


@router.post("/{day}/remedy")
def take_remedy(day: DayPath, taken: Taken, here: Here) -> MorningView:
    """Make the changes of a remedy."""
    m = morning_of(day, here)
    guests, people = list(m.wished.guests), m.wished.people
    for c in taken.changes:
        if c.helper:
            people = (*people, Person.model_validate({"id": f"helper_{len(people)}", "name": "Helper", "may": c.helper}))
        for n, g in enumerate(guests):
            if g.guest.id == c.guest:
                update = {k: v for k, v in (("at", c.at), ("batter", c.batter)) if v is not None}
                guests[n] = g.model_copy(update={"guest": g.guest.model_copy(update=update)})
    return view_of(_wish(m, m.wished.model_copy(update={"guests": tuple(guests), "people": people}), here), here)


class AskedOne(BaseModel):
    """A guest who comes on the day, as a line."""

    model_config = ConfigDict(extra="forbid")

    id: Annotated[str, Field(pattern=r"^[0-9a-z-]{8,40}$")]
    text: Annotated[str, Field(max_length=500)]


@router.post("/{day}/came")
def came(day: DayPath, asked: AskedOne, here: Here) -> Added:
    """One more guest, on the day itself: planned in at once."""
    m = morning_of(day, here)
    now = min(max(0, _seconds(day, here)), DAY - 1)
    found, unread = read_guests(asked.text, here.morning_kitchen.rules, ALLERGENS, [g.id for g in _now(m, here).guests], now)
    if unread or len(found) != 1:
        return Added(morning=view_of(m, here), unread=unread or (Unread(line=asked.text, why="one guest at a time"),))
    event = Happening(id=asked.id, at=now, kind="came", guest=found[0])
    return Added(morning=happened(day, event, here), unread=())


@router.post("/{day}/plan")
def plan_again(day: DayPath, here: Here) -> MorningView:
    """Look for a plan anew."""
    m = morning_of(day, here)
    return view_of(_plan(m if m.revision else here.mornings.wish(day, m.wished), here), here)


@router.post("/{day}/happened")
def happened(day: DayPath, event: Happening, here: Here) -> MorningView:
    """Keep what happened; what changes the rest of the morning is planned around at once."""
    before = morning_of(day, here)
    m = here.mornings.happen(day, event)
    _tell_the_stove(m, event, here)
    said = ""
    if event.kind != "done" and not (event.kind == "undone" and _was_done(before, event.of)):
        m = _plan(m, here)
        if before.plan is not None and m.plan is not None:
            said = moved(before.plan, m.plan, here.morning_kitchen.service(m))
    return view_of(m, here, said)


def _tell_the_stove(m: Morning, event: Happening, here: Context) -> None:
    """What was ticked here is written into the batch that the Stove cooks, and what is taken back here is taken back there."""
    if m.plan is None or event.kind not in ("done", "undone"):
        return
    batches = {b.id: b for b in _cooked(m, here)}
    if event.kind == "undone":
        told = taken_back(event, {k: b.events for k, b in batches.items()}, here.clock.now())
    else:
        batter = next((x.batter for x in m.plan.loads if x.id == event.of), "")
        states = {k: fold(b.plan, b.events) for k, b in batches.items() if b.version_id == batter}
        told = in_the_bowl(m.plan, event, states, here.clock.now())
    if told is not None:
        at_the_stove(told[0], (told[1],), here)


def _was_done(m: Morning, id_: str) -> bool:
    return any(e.id == id_ and e.kind == "done" for e in m.happened)


def morning_of(day: str, here: Context) -> Morning:
    """A day as it is kept. CannotBe where it is none."""
    try:
        date.fromisoformat(day)
    except ValueError:
        raise CannotBe(f"{day} is no day") from None
    return here.mornings.day(day)


def _guest(m: Morning, id_: str) -> KeptGuest:
    for g in m.wished.guests:
        if g.guest.id == id_:
            return g
    raise NotKnown(id_)


def _wish(m: Morning, wished: Wished, here: Context) -> Morning:
    return _plan(here.mornings.wish(m.day, wished), here)


def _seconds(day: str, here: Context) -> int:
    """This moment in seconds of a day."""
    now = datetime.fromtimestamp(here.clock.now())
    return int((now - datetime.combine(date.fromisoformat(day), datetime.min.time())).total_seconds())


def _now(m: Morning, here: Context) -> Service:
    happened = (*m.happened, *_at_the_stove(m, here))
    return wishes_now(here.morning_kitchen.service(m), m.plan, happened, min(max(0, _seconds(m.day, here)), DAY - 1))


def _cooked(m: Morning, here: Context) -> list[Batch]:
    """The Stove's batches of that day, of the versions that the plan makes; the oldest first."""
    midnight = datetime.combine(date.fromisoformat(m.day), datetime.min.time()).timestamp()
    over = [here.stove.batch(x.id) for x in here.stove.log(0, 30)[0] if midnight <= x.started < midnight + DAY]
    used = m.plan.batters_used if m.plan is not None else ()
    found = {b.id: b for b in (*over, *here.stove.under_way()) if b.version_id in used and midnight <= b.started < midnight + DAY}
    return sorted(found.values(), key=lambda b: b.started)


def _at_the_stove(m: Morning, here: Context) -> tuple[Happening, ...]:
    """What was done of a plan in the Stove's batches of that day, of the same versions."""
    if m.plan is None or not m.plan.loads:
        return ()
    midnight = datetime.combine(date.fromisoformat(m.day), datetime.min.time()).timestamp()
    made: dict[str, list[tuple[float, float | None, float | None]]] = {}
    mixed: dict[str, int] = {}
    for batch in _cooked(m, here):
        s = fold(batch.plan, batch.events)
        mixed[batch.version_id] = mixed.get(batch.version_id, 0) + (s.wet_at is not None)
        made.setdefault(batch.version_id, []).extend(
            (x.on - midnight, None if x.turned is None else x.turned - midnight, None if x.off is None else x.off - midnight)
            for x in s.loads
            if not x.test
        )
    return from_stove(m.plan, made, mixed)


def serve(batch: Batch, here: Context) -> None:
    """Write down who ate of a batch that is over, by the plan of its morning; where it was of none, nobody is known."""
    m = here.mornings.day(datetime.fromtimestamp(batch.started).date().isoformat())
    if m.plan is None or batch.version_id not in m.plan.batters_used:
        return
    like = {b.id: fold(b.plan, b.events) for b in _cooked(m, here) if b.version_id == batch.version_id}
    mine = m.plan.model_copy(update={"loads": tuple(x for x in m.plan.loads if x.batter == batch.version_id)})
    guests = {g.id: g for g in _now(m, here).guests}
    rows = served_by(mine, like).get(batch.id, ())
    here.journal.serve(
        batch.id,
        [Served(load=n, at=at, name=guests[g].said, needs=_needs(guests[g]), pieces=pieces) for n, g, pieces, at in rows if g in guests],
    )


def _needs(guest: Guest) -> str:
    return ", ".join(f"{n.what.replace('_', ' ')} {n.grade}" for n in guest.minds)


def _plan(m: Morning, here: Context) -> Morning:
    """A plan at once, and better ones looked for apart. Where nothing can be planned, the last plan stays."""
    service = _now(m, here)
    if not service.guests:
        here.planner.stop(m.day)
        if m.plan is not None:
            here.mornings.planned(m.day, Plan(), m.revision)
        return here.mornings.day(m.day)
    if _over(m.day, service, here) or next(iter(faults_of(service, here.morning_kitchen.rules)), None):
        return m
    first = next(plans(service, here.morning_kitchen.rules, Effort(left=lambda: 0.5)))
    if first.plates or m.plan is None or not m.plan.plates:  # found at once; else the last plan stays until there is one
        here.mornings.planned(m.day, first, m.revision)
    revision = m.revision
    here.planner.ask(m.day, service, lambda plan: here.mornings.planned(m.day, plan, revision))
    return here.mornings.day(m.day)


def view_of(m: Morning, here: Context, said: str = "") -> MorningView:
    """A morning as it is shown; `said` of what a change moved."""
    service = _now(m, here)
    kitchen = here.morning_kitchen
    plan = m.plan
    trouble = ""
    if _over(m.day, service, here):
        trouble = "This morning is over. The plan is kept as it was; plan another day."
    elif service.guests:
        trouble = here.planner.failed.get(m.day, "") or next(iter(faults_of(service, kitchen.rules)), "")
    last = next((e for e in reversed(standing(m.happened))), None)
    there = (*m.happened, *_at_the_stove(m, here))
    minds = minds_of(service, plan.serves, kitchen.rules) if plan else {}
    ahead = made_ahead(service, plan, minds, kitchen.analysed, here.facts, here.profile()) if plan else ()
    todo = sorted((*acts(service, plan, there), *side_acts(ahead, there)), key=lambda a: a.at) if plan else []
    return MorningView(
        day=m.day, today=datetime.fromtimestamp(here.clock.now()).date().isoformat(), now=_seconds(m.day, here), start=spoken(m.wished.start), guests=_guests(m, service, here),
        people=m.wished.people, stations=tuple(_station(s.id, service, m) for s in service.stations), cold=m.wished.cold,
        offers=tuple(OfferView(id=o.id, name=o.said, form=o.form, contains=o.contains, adapted=":for:" in o.id) for o in service.batters), plan=plan, planning=here.planner.busy(m.day),
        trouble=trouble, acts=tuple(todo), mixes=evening_mixes(service, plan, minds, kitchen.analysed, here.facts, here.profile()) if plan else (), ahead=ahead, buy=_buy(plan, here) if plan else (),
        can_undo=last.id if last else "", said=said,
    )  # fmt: skip


def _over(day: str, service: Service, here: Context) -> bool:
    """Whether the last guest of a day should have eaten long ago."""
    return bool(service.guests) and _seconds(day, here) > max(g.at for g in service.guests) + OVER_S


def _guests(m: Morning, service: Service, here: Context) -> tuple[GuestView, ...]:
    plan = m.plan or Plan()
    forget = {g.guest.id: g.forget for g in m.wished.guests}
    names = {o.id: o for o in service.batters}
    served = {g: p.served for p in plan.plates for g in p.guests}
    found = []
    for g in sorted(service.guests, key=lambda g: (g.at, g.said.casefold(), g.id)):
        offer = names.get(plan.serves.get(g.id, ""))
        fits = offer is not None and all(clash(n, offer, here.morning_kitchen.rules) is None for n in g.minds)
        found.append(
            GuestView(
                id=g.id, name=g.said, at=spoken(g.at), table=g.table or "", pieces=g.pieces, form=g.form, needs=g.minds, forget=forget.get(g.id, ""), gets=offer.said if offer else "", fits=fits,
                served=spoken(served[g.id]) if g.id in served else "",
            )
        )  # fmt: skip
    return tuple(found)


def _station(id_: str, service: Service, m: Morning) -> StationView:
    s = service.station(id_)
    return StationView(
        id=s.id,
        name=s.said,
        kind=s.kind,
        places=s.places,
        met=s.met,
        dead=any(e.kind == "dead" and e.of == id_ for e in standing(m.happened)),
    )


def _buy(plan: Plan, here: Context) -> tuple[ToBuy, ...]:
    """What the plan's batters take in all, beside what the Larder has of it."""
    kept, items, known = here.larder_kept() is not None, here.items, here.facts.ingredients
    return tuple(
        ToBuy(name=known[i].short, grams=round(g, 1), have_g=((items[i].stock_g or 0.0) if i in items else 0.0) if kept else None)
        for i, g in takes(plan, here.morning_kitchen.analysed).items()
    )
