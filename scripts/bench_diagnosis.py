"""How often a diagnosis is right, on batches made wrong with fresh seeds, and how sure it was when it was."""

import time
from collections import Counter, defaultdict

from tests.core.diagnosis.kitchen import FACTS, SPOIL, TABLES, answered, batch

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.diagnosis.features import figures
from mutabilis.core.diagnosis.network import posterior
from mutabilis.core.diagnosis.questions import best_question
from mutabilis.core.measures.profile import Profile

EACH = 12


def accuracy(missing: float, most: int, start: int) -> None:
    """The share of batches whose cause leads, and stands among the first three; questions asked; and calibration."""
    total = Counter[str]()
    said: dict[int, list[bool]] = defaultdict(list)
    for cause in SPOIL:
        left = EACH
        for seed in range(start, start + 8 * EACH):
            r = batch(cause, seed, missing) if left else None
            if r is None:
                continue
            left -= 1
            now = analyse(r.as_poured, FACTS, Profile(), {})
            ref = analyse(r.reference, FACTS, Profile(), {}) if r.reference else None
            seen = figures(r, now, ref, FACTS, TABLES)
            answers: dict[str, str] = {}
            found = posterior(TABLES, r.batter.form, seen.holds, r.faults, seen.values)
            while len(answers) < most and (q := best_question(TABLES, found, answers)) is not None:
                answers[q.id] = answered(r, cause, q.id, seed)
                found = posterior(TABLES, r.batter.form, seen.holds, r.faults, seen.values, answers)
            ranked = found.ranked()
            names = [c.cause for c, _ in ranked]
            total.update(n=1, first=names[0] == cause, three=cause in names[:3], asked=len(answers))
            said[min(9, int(10 * ranked[0][1]))].append(names[0] == cause)
    n = total["n"]
    error = sum(len(v) * abs(sum(v) / len(v) - (k + 0.5) / 10) for k, v in said.items()) / n
    print(
        f"{n} batches, {100 * missing:.0f} % of the record missing, at most {most} questions: first {100 * total['first'] / n:.0f} %, among three {100 * total['three'] / n:.0f} %,"
        f" {total['asked'] / n:.2f} questions, calibration error {error:.2f}"
    )


def main() -> None:
    """With no question, with four, and with half of the record missing; seeds of this day."""
    start = int(time.time()) // 86_400 * 1000
    accuracy(0.0, 0, start)
    accuracy(0.0, 4, start)
    accuracy(0.5, 4, start)


if __name__ == "__main__":
    main()
