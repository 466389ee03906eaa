"""Write docs/kitchens.md: simulated kitchens that follow the tool, beside pouring the whole amount."""

import statistics
from pathlib import Path

from tests.conftest import BUTTERMILK, COCONUT, PLAIN, RIDGE, WAFFLE
from tests.core.stove.kitchens import Came, Look, one_batch

from mutabilis.core.balances.holdback import Way
from mutabilis.core.batter.batter import Batter, FormKey
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts

KITCHENS = 400
BATTERS: tuple[tuple[str, str, FormKey], ...] = (
    ("wheat and rye cakes", RIDGE, "griddle"), ("plain cakes", PLAIN, "griddle"), ("buttermilk cakes", BUTTERMILK, "griddle"), ("waffles", WAFFLE, "waffle"),
    ("coconut flour cakes", COCONUT, "griddle"),
)  # fmt: skip
HEAD = f"""# Simulated kitchens

{KITCHENS} kitchens for each batter and way, each with a true thirst of every flour (±10 % refined, ±20 % thirsty, as two deviations), eggs of its own
(±10 %), hands that weigh to a gram or fill cups within 5 %, a ruler good to 3.5 mm, and taps that are half a minute out. The cook follows the tool: pours
what it says, holds the rest back, spreads 60 mL on a cold plate (or judges by an eye that is half a centimetre out and knows five pictures), adds what it says, and looks
again, four times at most. In the rows so marked one bowl in ten holds something else: a line left out, one doubled, another flour. What counts is the true spread after the rest,
within 1 cm of the target; beside it, what pouring the whole amount at once would have given. `tests/core/stove/test_judging.py` holds 95 of 100 with a scale and a plate, 85 by eye, one bowl in ten wrong;
`.venv/bin/python -m scripts.kitchens` writes this table.

| batter | measured by | target | within 1 cm, followed | within 1 cm, all at once | off by (one deviation) | all at once |
|---|---|---|---|---|---|---|
"""


def row(name: str, way: str, came: list[Came]) -> str:
    """One line of the table."""

    def share(which: str) -> str:
        return f"{100 * sum(abs(getattr(x, which) - x.target) <= 1 for x in came) / len(came):.0f} %"

    off = [f"{statistics.pstdev(getattr(x, which) - x.target for x in came):.2f} cm" for which in ("followed", "poured_all")]
    return f"| {name} | {way} | {came[0].target:.1f} cm | {share('followed')} | {share('poured_all')} | {off[0]} | {off[1]} |"


if __name__ == "__main__":
    facts = load_facts()
    ways: tuple[tuple[str, Way, Look, float], ...] = (
        ("scale", "scale", "spread", 0.0), ("cups", "cups", "spread", 0.0), ("scale, one in ten wrong", "scale", "spread", 0.1), ("scale, by eye, one in ten wrong", "scale", "eye", 0.1),
    )  # fmt: skip
    rows = [
        row(
            name,
            words,
            [
                one_batch(Batter(lines=read_lines(text, facts, Profile()), form=form), facts, seed, way, 4, look, wrong)
                for seed in range(KITCHENS)
            ],
        )
        for name, text, form in BATTERS
        for words, way, look, wrong in ways
    ]
    foot = (
        "\n\nRead it so: with refined flours and a scale the amounts of a balanced batter arrive by themselves, and judging costs nothing; by cups, and with thirsty "
        "flours, it is judging that brings the batter home.\n"
    )
    Path("docs/kitchens.md").write_text(HEAD + "\n".join(rows) + foot, encoding="utf-8")
