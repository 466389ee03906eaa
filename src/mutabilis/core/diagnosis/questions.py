"""The one question that would tell most, and when to stop asking."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from .network import Posterior, answer_shares
from .tables import DiagnosisTables

DONT_KNOW = "don't know"


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """A question, its answers ("don't know" always among them), and by how many bits it is expected to narrow the causes down."""

    id: str
    text: str
    answers: tuple[str, ...]
    gain_bits: float


def best_question(
    tables: DiagnosisTables, found: Posterior, asked: Mapping[str, str], skip: frozenset[str] = frozenset()
) -> Question | None:
    """The question with the largest expected fall in the entropy of the causes; None where the leader is sure, four were asked, or none
    would tell enough. `skip`: what the record answers already."""
    net = tables.network
    ranked = found.ranked()
    if not ranked or ranked[0][1] >= net.sure or len(asked) >= net.most_questions:
        return None
    best: Question | None = None
    ids = dict.fromkeys(q.question for q in tables.questions)
    before = _entropy(found, found.p)
    for id in ids:
        rows = [q for q in tables.questions if q.question == id and q.cause == "*"]
        if id in asked or id in skip or not rows or found.form not in rows[0].forms or not set(rows[0].needs) <= found.holds:
            continue
        given, shares = answer_shares(tables, id, found.causes, found.members)
        joint = found.p[:, None] * shares
        after = 0.0
        for n in range(len(given)):
            share = float(joint[:, n].sum())
            if share > 0:
                after += share * _entropy(found, joint[:, n] / share)
        gain = before - after
        if gain >= net.least_bits and (best is None or gain > best.gain_bits + 1e-9):
            best = Question(id=id, text=rows[0].text, answers=(*(r.answer for r in rows), DONT_KNOW), gain_bits=round(gain, 3))
    return best


def _entropy(found: Posterior, p: "np.ndarray[tuple[int], np.dtype[np.float64]]") -> float:
    """The entropy of the cause probabilities [bit], each cause at work or not."""
    x = np.clip(p @ found.members, 1e-12, 1 - 1e-12)
    return float(np.sum(-x * np.log2(x) - (1 - x) * np.log2(1 - x)))
