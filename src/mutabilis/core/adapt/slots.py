"""Answers that differ in kind, each in its fixed slot with one fact; a slot that stays empty says why."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..balances.nutrition import per_serving
from .course import Kind
from .job import Answer, Job
from .saying import clash_reasons

LABELS: dict[Kind, str] = {
    "nearest": "nearest", "larder": "from the larder", "least_to_buy": "least to buy", "most_protein": "most protein", "simplest": "simplest",
}  # fmt: skip
MORE_PROTEIN = (1.6, 1.3, 1.15)  # times the protein of the nearest that is tried for, the most first
AS_CLOSE = 0.5  # of the nearest's closeness: an answer further off is no answer to the same wish


@dataclass(frozen=True, slots=True, kw_only=True)
class Slot:
    """A kind of answer: the answer and one fact about it, or why there is none (`empty`)."""

    kind: Kind
    answer: Answer | None
    fact: str = ""
    empty: str = ""

    @property
    def label(self) -> str:
        """What the slot is called."""
        return LABELS[self.kind]


def slots_of(job: Job, first: Answer) -> tuple[Slot, ...]:
    """The nearest answer and the other kinds in the order of `LABELS`, until there are as many answers as were wished for."""
    found = [Slot(kind="nearest", answer=first, fact=_nearest_fact(job, first))]
    for maker in (_larder, _least_to_buy, _most_protein, _simplest):
        if sum(s.answer is not None for s in found) >= job.wishes.alternatives:
            break
        slot = maker(job, first)
        same = next((s for s in found if slot.answer and s.answer and s.answer.kind == slot.answer.kind), None)
        found.append(slot if same is None else Slot(kind=slot.kind, answer=None, empty=f"The {same.label} is it already: {slot.fact}."))
    return tuple(found)


def _nearest_fact(job: Job, a: Answer) -> str:
    new = a.kind - {line.ingredient for line in job.base.lines}
    return f"{_count(len(new), 'new thing')} in it" if new else "nothing new in it"


def _at_hand(job: Job) -> frozenset[str]:
    """What need not be bought: what the larder holds where it is kept, else what the batter has already; and water."""
    had = job.wishes.at_hand if job.wishes.at_hand is not None else tuple(line.ingredient or "" for line in job.base.lines)
    return frozenset({"water", *had})


def _to_buy(job: Job, a: Answer) -> list[str]:
    return sorted(a.kind - _at_hand(job))


def _named(job: Job, ids: Sequence[str]) -> str:
    names = [job.facts.ingredients[i].short for i in ids]
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")


def _larder(job: Job, first: Answer) -> Slot:
    """Only from what is in."""
    if job.wishes.at_hand is None:
        return Slot(kind="larder", answer=None, empty="The Larder is not kept yet: say what is in it.")
    missing = _to_buy(job, first)
    if not missing:
        return Slot(kind="larder", answer=None, empty="The nearest is all in the Larder.")
    answer, broken = job.again(job.wishes.model_copy(update={"larder": tuple(_at_hand(job))})).run()
    if answer is None:
        why = clash_reasons(broken, job.rules)[0] if broken else "too little of it is in."
        return Slot(kind="larder", answer=None, empty=f"Not from what is in, without {_named(job, missing)}. {why}")
    if lacking := _to_buy(job, answer):
        return Slot(kind="larder", answer=None, empty=f"{_named(job, lacking)} of the batter itself is not in.")
    return _if_close(Slot(kind="larder", answer=answer, fact="nothing to buy"), first)


def _least_to_buy(job: Job, first: Answer) -> Slot:
    """As few things as can be that are not in the kitchen."""
    most = _to_buy(job, first)
    if not most:
        return Slot(kind="least_to_buy", answer=None, empty="The nearest needs nothing bought.")
    answer, _ = job.again(kind="least_to_buy", at_hand=_at_hand(job)).run()
    need = _to_buy(job, answer) if answer else most
    if answer is None or len(need) >= len(most):
        return Slot(kind="least_to_buy", answer=None, empty=f"The nearest needs no more than it must: {_named(job, most)}.")
    return _if_close(Slot(kind="least_to_buy", answer=answer, fact=f"{len(need)} to buy" if need else "nothing to buy"), first)


def _most_protein(job: Job, first: Answer) -> Slot:
    """The most protein a serving that the batter bears."""
    has = _protein(first)
    for times in MORE_PROTEIN:
        wished = max(times * has, job.wishes.floors.get("protein_g", 0.0))
        answer, _ = job.again(job.wishes.model_copy(update={"floors": {**job.wishes.floors, "protein_g": wished}})).run()
        if answer is not None and answer.score >= AS_CLOSE * first.score:
            return Slot(
                kind="most_protein", answer=answer, fact=f"{_protein(answer):.0f} g of protein a serving, where the nearest has {has:.0f} g"
            )
    return Slot(kind="most_protein", answer=None, empty=f"Nothing allowed brings more protein than the nearest, {has:.0f} g a serving.")


def _simplest(job: Job, first: Answer) -> Slot:
    """The fewest things to measure."""
    answer, _ = job.again(kind="simplest").run()
    many, few = len(first.kind), len(answer.kind) if answer else 99
    if answer is None or few >= many:
        return Slot(kind="simplest", answer=None, empty=f"The nearest is the simplest already: {_count(many, 'thing')} to measure.")
    return _if_close(Slot(kind="simplest", answer=answer, fact=f"{_count(few, 'thing')} to measure, where the nearest has {many}"), first)


def _if_close(slot: Slot, first: Answer) -> Slot:
    """The slot, or an empty one where its answer is no batter of this kind any more."""
    if slot.answer and slot.answer.score < AS_CLOSE * first.score:
        return Slot(kind=slot.kind, answer=None, empty=f"{slot.fact[:1].upper()}{slot.fact[1:]} would take it too far from what you have.")
    return slot


def _protein(a: Answer) -> float:
    x = a.analysis
    return per_serving(x.nutrition, x.sodium_mg, x.servings)["protein_g"]


def _count(n: int, thing: str) -> str:
    return f"{n} {thing}{'' if n == 1 else 's'}"
