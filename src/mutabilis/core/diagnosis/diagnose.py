"""The whole of it: figures, causes, a question, a correction, and how thin the evidence is."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..analysis.analysis import Analysis, analyse
from ..errors import CannotBe
from ..measures.profile import Profile
from ..stove.facts import StoveFacts
from .corrections import Correction, correction
from .features import Figures, figures
from .network import Posterior, Weighed, posterior
from .questions import Question, best_question
from .record import Record
from .tables import Cause, DiagnosisTables

SHOWN = 5  # causes are told; of those less likely than a twentieth, only the first three
# What the record has is not asked again.
ASKED_OF = {"when": "seen_first_only", "strokes": "mix_of_usual", "after": "stacked", "fruit": "fruit_frozen", "thermometer": "heat_vs_advised_c", "stir": "stirred_between", "cup": "measured_by_cups", "top": "turn_of_predicted"}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Sign:
    """One figure that spoke: its value, its weight, and words."""

    feature: str
    value: float
    weight: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Trial:
    """How to find out for sure: one thing changed, two arms, so many pairs."""

    change_one_thing: str
    arms: tuple[str, ...]
    pairs: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Suspect:
    """A cause with its probability, what speaks for and against it, its correction and a trial."""

    cause: str
    name: str
    p: float
    evidence: tuple[Sign, ...]
    correction: Correction
    trial: Trial


@dataclass(frozen=True, slots=True, kw_only=True)
class Diagnosis:
    """The causes, the likeliest first; how likely none of them is; whether the evidence is thin; the next question; what was not recorded."""

    causes: tuple[Suspect, ...]
    none_of_these: float
    thin: bool
    question: Question | None
    not_recorded: tuple[str, ...]


def diagnose(
    r: Record, facts: StoveFacts, profile: Profile, tables: DiagnosisTables, priors: Mapping[str, float] | None = None
) -> Diagnosis:
    """Why a batch came out as it did. CannotBe for a fault that is unknown, or a batter of which nothing was read."""
    for fault in r.faults:
        if fault not in tables.network.faults:
            raise CannotBe(f"there is no fault “{fault}”")
    for at in r.poured:
        if not 0 <= at < len(r.batter.lines):
            raise CannotBe(f"poured: there is no line {at}")
    if not any(line.counts for line in r.batter.lines):
        raise CannotBe("no line of the batter could be read")
    now = analyse(r.as_poured, facts, profile, {})
    ref = analyse(r.reference, facts, profile, {}) if r.reference is not None else None
    if ref is not None and not ref.bowl.portions:
        ref = None
    seen = figures(r, now, ref, facts, tables)
    found = posterior(tables, r.batter.form, seen.holds, r.faults, seen.values, r.answers, priors)
    ranked = found.ranked()
    shown = [(c, p) for n, (c, p) in enumerate(ranked[:SHOWN]) if n < 3 or p >= 0.05]
    skip = frozenset(q for q, feature in ASKED_OF.items() if feature in seen.values)
    return Diagnosis(
        causes=tuple(_suspect(c, p, found, r, now, ref, seen, facts, profile, tables) for c, p in shown),
        none_of_these=round(found.none, 4),
        thin=_thin(ranked, found, r, tables),
        question=best_question(tables, found, r.answers, skip),
        not_recorded=seen.not_recorded,
    )


def _thin(ranked: tuple[tuple[Cause, float], ...], found: Posterior, r: Record, tables: DiagnosisTables) -> bool:
    """No cause as likely as it takes, or a leader that rests on nothing weighty: neither a figure nor an answer."""
    if not ranked:
        return True
    leader, p = ranked[0]
    weighty = any(w.weight >= tables.network.weighty for w in found.weighed[leader.cause])
    answered = any(q.cause == leader.cause and r.answers.get(q.question) == q.answer and q.probability >= 0.5 for q in tables.questions)
    return p < tables.network.thin or not (weighty or answered)


def _suspect(
    c: Cause, p: float, found: Posterior, r: Record, now: Analysis, ref: Analysis | None, seen: Figures, facts: StoveFacts, profile: Profile, tables: DiagnosisTables
) -> Suspect:  # fmt: skip
    fixed = correction(c, r, now, ref, seen, facts, profile, tables)
    return Suspect(
        cause=c.cause, name=c.name, p=round(p, 4), evidence=tuple(_told(w, tables) for w in found.weighed[c.cause]), correction=fixed,
        trial=Trial(change_one_thing=c.trial, arms=("as it was", fixed.words.rstrip(".") or c.correction), pairs=_pairs(c)),
    )  # fmt: skip


def _pairs(c: Cause) -> int:
    """How many pairs it takes to tell: a spread of a centimetre shows at once; heat and seconds take more; taste the most."""
    if c.unit == "s":
        return 12
    return 1 if c.unit in ("g", "mL") and "flow" in c.needs else 5 if c.unit in ("g", "strokes", "pack") else 4


def _told(w: Weighed, tables: DiagnosisTables) -> Sign:
    name, unit = tables.network.features[w.feature]
    figure = f"{w.value:.2f}".rstrip("0").rstrip(".") if abs(w.value) < 10 else f"{w.value:.0f}"
    figure = figure.replace("-", "−")
    text = (
        f"{name}: {figure} {unit}".rstrip()
        if unit
        else f"{name}: {'yes' if w.value > 0.5 else 'no'}"
        if w.value in (0.0, 1.0)
        else f"{name}: {figure}"
    )
    return Sign(feature=w.feature, value=round(w.value, 4), weight=round(w.weight, 4), text=text)
