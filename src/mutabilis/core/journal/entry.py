"""One batch of the log: what was meant beside what happened, and the record from which it is diagnosed.

Everything is read from the events that the Stove kept; what nobody recorded is left out, never guessed.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from ..analysis.analysis import analyse
from ..batter.batter import Batter, BatterLine
from ..diagnosis.record import Happened, PackAge, Record, Spread
from ..heat.largest_piece import workable
from ..heat.pieces import piece_on
from ..measures.profile import Profile
from ..stove.batch import Batch
from ..stove.facts import StoveFacts
from ..stove.fold import Load, State, fold
from .predicted import Predicted

NEAR = {
    "g": 0.02,
    "min": 0.25,
    "°C": 8.0,
    "s": 0.15,
    "mm": 0.15,
    "pieces": 0.1,
    "cm": 0.5,
}  # what a cook would not notice: shares, and for heat and spread degrees and centimetres


@dataclass(frozen=True, slots=True, kw_only=True)
class Meant:
    """One thing that was meant and what happened: both in one unit, whether a cook would call it near enough, and words."""

    key: str
    name: str
    unit: str
    meant: float
    happened: float
    near: bool
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """A batch as it is read afterwards."""

    rows: tuple[Meant, ...]
    faults: tuple[str, ...]
    stars: int | None
    note: str
    made: int


def entry(batch: Batch, facts: StoveFacts, profile: Profile, frozen: Predicted | None = None) -> Entry:
    """What was meant and what happened, the rows that were recorded; meant as it was reckoned at the start, where that was kept."""
    s = fold(batch.plan, batch.events, batch.first_at)
    a = analyse(batch.plan, facts, profile, {})
    rows: list[Meant] = []
    for at, line in enumerate(batch.plan.lines):
        if at < len(s.lines) and line.counts and line.grams > 0 and s.lines[at].poured > 0:
            i = facts.ingredients[line.ingredient or ""]
            row = _row(f"line {at}", i.short, "g", line.grams, s.lines[at].poured)
            if not row.near or i.water_g > 60:
                rows.append(row)
    last = max((x.on for x in s.loads), default=None)
    first = min((x.on for x in s.loads), default=None)
    if s.wet_at is not None and first is not None:
        rows.append(_row("rest", "Rested", "min", a.bowl.rest_min, (first - s.wet_at) / 60))
    if s.chosen is not None:
        piece = piece_on(a, s.chosen.surface, s.chosen.portion_ml, s.chosen.grease, facts)
        cooked = workable(round(min(80.0, max(0.3, piece.thickness_mm)), 1), batch.plan.form, s.chosen.surface, facts, s.chosen.grease)
        if s.read_c is not None:
            rows.append(_row("heat", "Heat at the pour", "°C", cooked.celsius if cooked else s.chosen.celsius, s.read_c))
        turned, off = _mean(s, "turned"), _mean(s, "off")
        same = frozen is not None and (s.chosen.surface.name, s.chosen.portion_ml) == (frozen.surface, frozen.portion_ml)
        turn_s, done_s = (frozen.turn_s, frozen.done_s) if same and frozen else (cooked.turn_s, cooked.done_s) if cooked else (None, None)
        if turn_s and turned is not None:
            rows.append(_row("turned", "Turned", "s", turn_s, turned))
        if done_s and off is not None:
            rows.append(_row("off", "Off", "s", done_s, off))
    spread = next((j.event for j in reversed(s.judged) if j.event.way == "spread" and j.event.volume_ml == 60.0), None)
    if spread is not None and s.wet_at is not None:
        then = analyse(
            batch.plan.model_copy(update={"rest_min": max(0.0, (spread.at - s.wet_at) / 60)}), facts, profile, {}
        ).water.spread_cm
        if then is not None:
            rows.append(_row("spread", "60 mL spread to", "cm", then, spread.value))
    pieces = frozen.pieces if frozen else a.yields.pieces
    if s.made and pieces > 0 and last is not None:
        rows.append(_row("pieces", "Pieces", "pieces", pieces, float(s.made)))
    return Entry(rows=tuple(rows), faults=s.faults, stars=s.stars, note=s.note, made=s.made)


def _row(key: str, name: str, unit: str, meant: float, happened: float) -> Meant:
    off = happened - meant
    near = abs(off) <= (NEAR[unit] if unit in ("°C", "cm") else max(NEAR[unit] * abs(meant), 1.0 if unit in ("g", "pieces") else 0.0))
    if near:
        words = "near enough"
    elif unit == "min":
        words = f"{abs(off):.0f} min {'longer' if off > 0 else 'shorter'}"
    elif unit == "s":
        words = f"{abs(off):.0f} s {'late' if off > 0 else 'before its time'}"
    elif unit == "°C":
        words = f"{abs(off):.0f} °C too {'hot' if off > 0 else 'cool'}"
    elif unit == "cm":
        words = f"{abs(off):.1f} cm {'wider: it ran thinner' if off > 0 else 'less: it stood thicker'}"
    else:
        words = f"{abs(off):.0f} {unit} {'more' if off > 0 else 'less'}"
    return Meant(key=key, name=name, unit=unit, meant=round(meant, 1), happened=round(happened, 1), near=near, words=words)


def _mean(s: State, what: str) -> float | None:
    """The mean second at which loads were turned or came off; test pieces are cut when it pleases."""
    found = [m - x.on for x in s.loads if not x.test and (m := _moment(x, what)) is not None]
    return sum(found) / len(found) if found else None


def _moment(x: Load, what: str) -> float | None:
    return x.turned if what == "turned" else x.off


def record_of(
    batch: Batch, reference: Batter | None, proven: bool, facts: StoveFacts, packs: Mapping[str, float] | None = None,
    faults: tuple[str, ...] | None = None, when: str | None = None, answers: Mapping[str, str] | None = None, under_way: bool = False,
) -> Record | None:  # fmt: skip
    """The record of a batch for its diagnosis; None where no fault was seen. `faults` and `when` as told afterwards, in place of the Stove's;
    `packs`: how long the pack of an ingredient has been open [d]. Of a batch `under_way` what is still to be poured counts as in; what is held
    back in a cup does not."""
    s = fold(batch.plan, batch.events, batch.first_at)
    seen = faults if faults is not None else s.faults
    if not seen:
        return None
    first, last = min((x.on for x in s.loads), default=None), max((x.on for x in s.loads), default=None)
    wet = s.leavened_at if s.leavened_at is not None else s.wet_at
    by = {p.by for p in batch.events if p.kind == "poured"}
    gaps = [b.on - a.off for a, b in zip(s.loads, s.loads[1:], strict=False) if a.off is not None]
    e = {
        "wet_to_first_min": _minutes(s.wet_at, first), "wet_to_last_min": _minutes(wet, last), "set_c": s.celsius, "read_c": s.read_c, "heat_on_min": _minutes(s.heat_on, first),
        "heat_up_min": s.chosen.surface.heat_up_min if s.chosen else None, "gap_s": min(gaps, default=None), "recover_s": s.chosen.surface.recover_s if s.chosen else None,
        "turned_s": _mean(s, "turned"), "off_s": _mean(s, "off"), "grease": s.chosen.grease if s.chosen else None,
        "loads_since_wiped": len([x for x in s.loads if x.on > max((at for care, at, _ in s.cared if care == "wiped"), default=-1.0)]) if s.loads else None,
    }  # fmt: skip
    amounts = {x.at: x.poured if x.settled or not under_way else max(x.poured, x.target) for x in s.lines}
    poured = {at: grams for at, grams in amounts.items() if grams > 0}
    added = [x for x in s.lines if x.at >= len(batch.plan.lines)]  # none of it was meant
    batter = batch.plan.model_copy(
        update={"lines": (*batch.plan.lines, *(BatterLine(text=x.ingredient, ingredient=x.ingredient, grams=0.0) for x in added))}
    )
    wetted = s.wet_at
    judged = tuple(
        Spread(cm=j.event.value, minutes=max(0.0, (j.event.at - wetted) / 60))
        for j in s.judged
        if wetted is not None and j.event.way == "spread" and j.event.volume_ml == 60.0 and 2 < j.event.value <= 40
    )
    return Record.model_validate(
        {
            "batter": batter, "reference": reference, "reference_is": "proven" if proven else "parent", "poured": poured, "by": "measure" if by and "scale" not in by else "scale" if by else None,
            "events": Happened.model_validate({k: v for k, v in e.items() if v is not None and _whole(k, v)}), "judged": judged,
            "packs": {i: PackAge(opened_days=d) for i, d in (packs or {}).items()}, "faults": tuple(dict.fromkeys(seen)), "when": when, "answers": dict(answers or {}),
        }
    )  # fmt: skip


def _whole(key: str, value: object) -> bool:
    """Whether a figure can be one: a pause that is none of the clock's is left out."""
    return not isinstance(value, (int, float)) or value >= 0


def _minutes(begin: float | None, end: float | None) -> float | None:
    return None if begin is None or end is None or end < begin else (end - begin) / 60
