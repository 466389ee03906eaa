"""From faults and figures to causes: exact over no cause, one, and every pair.

Faults are noisy-OR with a leak (P(f | H) = 1 − (1 − leak)·Π(1 − strength)); of those that are there four in five are told. Figures are
log-likelihood ratios of a cause at work against not; answers multiply in by how often they are given.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..batter.batter import FormKey
from .tables import Cause, DiagnosisTables, Evidence

Hypothesis = tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """A figure that spoke for or against a cause: its value and weight (natural log of a likelihood ratio)."""

    feature: str
    value: float
    weight: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Posterior:
    """The hypotheses with their probabilities, the causes they are of (`members`: hypotheses × causes, 1 or 0), and what weighed for each cause."""

    causes: tuple[Cause, ...]
    hypotheses: tuple[Hypothesis, ...]
    p: "np.ndarray[tuple[int], np.dtype[np.float64]]"
    members: "np.ndarray[tuple[int, int], np.dtype[np.float64]]"
    weighed: Mapping[str, tuple[Weighed, ...]]
    form: FormKey
    holds: frozenset[str]

    def of(self, cause: str) -> float:
        """The probability that a cause is at work."""
        return next(p for c, p in self.ranked() if c.cause == cause)

    @property
    def none(self) -> float:
        """The probability that none of the causes is."""
        return float(self.p[0])

    def ranked(self) -> tuple[tuple[Cause, float], ...]:
        """The causes, the likeliest first."""
        marginal = self.p @ self.members
        order = sorted(range(len(self.causes)), key=lambda n: (-marginal[n], self.causes[n].cause))
        return tuple((self.causes[n], float(marginal[n])) for n in order)


def posterior(
    tables: DiagnosisTables, form: FormKey, holds: frozenset[str], faults: Sequence[str], features: Mapping[str, float],
    answers: Mapping[str, str] | None = None, priors: Mapping[str, float] | None = None,
) -> Posterior:  # fmt: skip
    """The probabilities of all hypotheses. `priors` are this kitchen's own where it has learned them."""
    net = tables.network
    causes = tuple(c for c in tables.causes if tables.fits(c, form, holds))
    place = {c.cause: n for n, c in enumerate(causes)}
    strength = np.zeros((len(causes), len(net.faults)))
    column = {f: n for n, f in enumerate(net.faults)}
    for link in tables.links:
        if link.cause in place and form in link.forms:
            strength[place[link.cause], column[link.fault]] = link.strength
    hypotheses: list[Hypothesis] = [(), *((n,) for n in range(len(causes))), *((a, b) for a in range(len(causes)) for b in range(a))]
    odds = np.array([_odds((priors or {}).get(c.cause, c.prior)) for c in causes])
    weighed = {c.cause: _weigh(tables, c.cause, features) for c in causes}
    speaks = np.array([sum(w.weight for w in weighed[c.cause]) for c in causes])
    seen = np.array([f in faults for f in net.faults])
    log = np.empty(len(hypotheses))
    for n, h in enumerate(hypotheses):
        there = 1 - (1 - net.leak) * np.prod(1 - strength[list(h)], axis=0) if h else np.full(len(net.faults), net.leak)
        told = net.reported * there
        log[n] = np.sum(np.log(np.where(seen, told, 1 - told))) + sum(math.log(odds[c]) + speaks[c] for c in h)
    members = np.array([[float(c in h) for c in range(len(causes))] for h in hypotheses])
    for question, answer in (answers or {}).items():
        given, shares = answer_shares(tables, question, causes, members)
        if answer in given:
            log += np.log(np.maximum(1e-4, shares[:, given.index(answer)]))
    p = np.exp(log - log.max())
    return Posterior(causes=causes, hypotheses=tuple(hypotheses), p=p / p.sum(), members=members, weighed=weighed, form=form, holds=holds)


def answer_shares(
    tables: DiagnosisTables, question: str, causes: Sequence[Cause], members: "np.ndarray[tuple[int, int], np.dtype[np.float64]]"
) -> "tuple[tuple[str, ...], np.ndarray[tuple[int, int], np.dtype[np.float64]]]":
    """How often each answer to a question is given under each hypothesis (hypotheses × answers).

    Each cause moves the usual share of an answer by its own ratio, and the shares of all answers come to 1. A cause that does not bear on
    the question moves nothing.
    """
    rows = [q for q in tables.questions if q.question == question]
    usual = {q.answer: max(q.probability, 1e-6) for q in rows if q.cause == "*"}
    if not usual:
        return (), np.ones((len(members), 0))
    own = {(q.cause, q.answer): q.probability for q in rows}
    ratio = np.array([[max(own.get((c.cause, a), u), 1e-6) / u for a, u in usual.items()] for c in causes])
    made = np.exp(members @ np.log(ratio)) * np.array(list(usual.values()))
    return tuple(usual), made / made.sum(axis=1, keepdims=True)


def _weigh(tables: DiagnosisTables, cause: str, features: Mapping[str, float]) -> tuple[Weighed, ...]:
    """What speaks for or against a cause, the strongest of each group. What was not recorded says nothing."""
    groups: dict[str, Weighed] = {}
    for e in tables.evidence:
        if e.cause != cause or e.feature not in features or e.explained(features):
            continue
        x = features[e.feature]
        one = Weighed(feature=e.feature, value=x, weight=weight(e, x))
        if e.group not in groups or abs(one.weight) > abs(groups[e.group].weight):
            groups[e.group] = one
    return tuple(sorted(groups.values(), key=lambda w: -abs(w.weight)))


def weight(e: Evidence, x: float) -> float:
    """without + (with − without)·σ(±(x − at)/width).

    >>> from types import SimpleNamespace as Row
    >>> weight(Row(points="+", at=1.0, width=0.1, with_=2.0, without=-1.0), 1.0)
    0.5
    """
    z = (x - e.at) / e.width * (1 if e.points == "+" else -1)
    rises = 1 / (1 + math.exp(-max(-60.0, min(60.0, z))))
    return e.without + (e.with_ - e.without) * rises


def _odds(p: float) -> float:
    return p / (1 - p)
