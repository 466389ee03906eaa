"""The tables of a diagnosis: causes, links to faults, evidence, questions, and how they are read."""

import operator
import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Annotated

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from ..batter.batter import FormKey
from ..food.ingredients import Confidence

Words = Annotated[tuple[str, ...], BeforeValidator(lambda x: tuple(x.split()) if isinstance(x, str) else x)]
_TEST = re.compile(r"([a-z0-9_]+)(>=|<=)(-?[0-9.]+)\Z")


class _Row(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True, defer_build=True)

    confidence: Confidence
    source: Annotated[str, Field(min_length=3)]


class Cause(_Row):
    """One cause: how often it is at work before anything is known, on which forms, what must be in the bowl, and its correction in words."""

    cause: str
    name: str
    prior: Annotated[float, Field(gt=0, lt=0.5)]
    forms: Words
    needs: Words
    correction: str
    unit: str
    trial: str


class Link(_Row):
    """How often a cause makes a fault, where it is at work alone."""

    cause: str
    fault: str
    strength: Annotated[float, Field(ge=0, lt=1)]
    forms: Words
    reason: str


class Evidence(_Row):
    """How far a figure speaks for a cause: `without` + (`with` − `without`)·σ(±(x − at)/width), natural log of a likelihood ratio. Of a
    `group` only the strongest counts; `unless` names figures that explain it already."""

    cause: str
    feature: str
    points: Annotated[str, Field(pattern=r"^[+-]$")]
    at: float
    width: Annotated[float, Field(gt=0)]
    with_: Annotated[float, Field(alias="with")]
    without: float
    group: str
    unless: Words

    def explained(self, features: Mapping[str, float]) -> bool:
        """Whether another cause already explains the figure."""
        for test in self.unless:
            found = _TEST.match(test)
            if found and found[1] in features and {">=": operator.ge, "<=": operator.le}[found[2]](features[found[1]], float(found[3])):
                return True
        return False


class Answer(_Row):
    """How often a question is answered so: by a cook whose batch had a cause, or by any ("*")."""

    question: str
    text: str
    answer: str
    cause: str
    probability: Annotated[float, Field(ge=0, le=1)]
    forms: Words
    needs: Words


class Network(BaseModel):
    """How the tables are read: shares, limits, neutral figures, and names."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    reported: float
    leak: float
    sure: float
    least_bits: float
    most_questions: int
    prior_weight: int
    thin: float
    weighty: float
    mix_s: float
    slow_min: float
    gel_most: float
    rubbery: float
    gum_of_starch: float
    neutral: dict[str, float]
    holds: dict[str, tuple[str, ...]]
    faults: dict[str, str]
    features: dict[str, tuple[str, str]]


class DiagnosisTables(BaseModel):
    """All of them, checked against each other as they are read."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    causes: tuple[Cause, ...]
    links: tuple[Link, ...]
    evidence: tuple[Evidence, ...]
    questions: tuple[Answer, ...]
    network: Network

    def cause(self, id: str) -> Cause:
        """A cause by its id."""
        return next(c for c in self.causes if c.cause == id)

    @classmethod
    def from_rows(
        cls,
        causes: Iterable[Mapping[str, str]],
        links: Iterable[Mapping[str, str]],
        evidence: Iterable[Mapping[str, str]],
        questions: Iterable[Mapping[str, str]],
        network: Mapping[str, object],
    ) -> "DiagnosisTables":
        """The tables from their rows. ValueError names a row that speaks of what no other table has."""
        made = cls.model_validate(
            {"causes": [*causes], "links": [*links], "evidence": [*evidence], "questions": [*questions], "network": network}
        )
        known = {c.cause for c in made.causes}
        named = {r.cause for r in made.links} | {r.cause for r in made.evidence} | {r.cause for r in made.questions if r.cause != "*"}
        if not named <= known:
            raise ValueError(f"no cause {sorted(named - known)[0]}")
        for link in made.links:
            if link.fault not in made.network.faults:
                raise ValueError(f"no fault {link.fault}")
        for e in made.evidence:
            if e.feature not in made.network.features:
                raise ValueError(f"no feature {e.feature}")
        return made

    def priors(self, came: Sequence[tuple[str, float]]) -> dict[str, float]:
        """A kitchen's own priors (Beta): each correction that was followed up counts as one batch beside the table's own weight, with its cause as
        far as it is likely [0 to 1] to have helped."""
        weight = self.network.prior_weight
        return {
            c.cause: min(0.45, (weight * c.prior + sum(p for cause, p in came if cause == c.cause)) / (weight + len(came)))
            for c in self.causes
        }

    def fits(self, cause: Cause, form: FormKey, holds: Iterable[str]) -> bool:
        """Whether a cause can be at work in a batter of a form that holds these things."""
        return form in cause.forms and set(cause.needs) <= set(holds)
