"""The rest: from when the drinkers have drunk until the lift has gone too far; by the minute."""

from dataclasses import dataclass

from ..balances.lift import latest_minute, left_after
from ..batter.bowl import BLENDER_MIN, Bowl
from ..food.coefficients import absorbed_share, per_gram
from ..food.ingredients import Ingredient
from ..roots import boundary
from .tables import TimeTable

DRUNK = 0.9  # of all that the drinkers will take


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """When to cook, in minutes since the wetting: from when nine tenths are drunk, the best minute, and the latest at which 85 % of the lift
    is left (`latest_min`, bounded by how long a batter may stand warm; `lift_min` None where the lift keeps). `tight` where the lift
    goes before the flour has drunk."""

    earliest_min: float
    best_min: float
    latest_min: float
    lift_min: float | None
    tight: bool
    words: str


def window(bowl: Bowl, blender: bool, facts: TimeTable) -> Window:
    """The window of a bowl. The best minute is the plan's own rest, moved into the window where it lies outside.

    The drinkers hold m·a·(1 − exp(−2.303·t/t90)) after t minutes; the lift's early part leaves with its half-life.
    """
    earliest = max(0.0, _drunk_at(bowl) - (BLENDER_MIN if blender else 0.0)) / max(bowl.pace, 1e-6)
    lift = latest_minute(bowl)
    most = facts.room_most_min if bowl.pace > 0.5 else max(facts.room_most_min, bowl.rest_min)
    latest = min(lift if lift is not None else most, most)
    best = min(max(bowl.rest_min, earliest), latest)
    tight = lift is not None and lift < earliest
    if tight:
        words = f"The lift goes before the flour has drunk: cook from minute {best:.0f}, or wet the powder last."
    elif lift is None:
        words = f"The lift keeps; it is thick enough from minute {earliest:.0f}."
    else:
        words = f"From minute {earliest:.0f}, when the flour has drunk, to minute {latest:.0f}, when 85 % of the lift is left."
    return Window(earliest_min=earliest, best_min=best, latest_min=latest, lift_min=lift, tight=tight, words=words)


def lift_left(bowl: Bowl, minutes: float) -> float:
    """Share of the lift left after so many minutes [min] since the wetting."""
    return left_after(bowl, max(0.0, minutes))


def past_window(bowl: Bowl, w: Window, minutes: float, left: float, most_min: float, powder: Ingredient, hold: str) -> str:
    """What is left of a batter that has stood past its window for so many `minutes` [min] since the wetting, and what to do; "" while it is in
    it. `left` is the share of the lift, `most_min` how long batter may stand warm [min], `hold` the caution for one that stood longer.

    The powder that gives back what is gone brings as much gas as has left: 24.47 mL/mmol of bicarbonate that finds its own acid.
    """
    if minutes <= w.latest_min:
        return ""
    if minutes > most_min and bowl.pace > 0.5:
        return f"It has stood warm for {minutes:.0f} minutes. With egg or milk in it, it is thrown away. {hold}"
    if w.lift_min is None:
        return "It has passed its window; it is only thicker. Cook it now, or stir in a spoon of liquid."
    gone = bowl.total("soda") * (1 - left)
    grams = gone / per_gram(powder, 0.0).soda
    pinch = (
        f", or sift in {grams:.1f} g of {powder.short} at the very last"
        if grams >= 0.3 and any(p.ingredient.group == "leavener" for p in bowl.portions)
        else ""
    )
    return f"It has passed its window: {100 * left:.0f} % of the lift is left. Cook it now, in smaller pieces{pinch}."


def _drunk_at(bowl: Bowl) -> float:
    """Minutes at room temperature after which nine tenths of all that will be drunk are in; bisection over the sum of the drinkers."""
    drinkers = [
        (p.grams * p.ingredient.absorption_g_per_g, p.ingredient.absorption_minutes) for p in bowl.portions if p.ingredient.is_drinker
    ]
    whole = sum(m for m, _ in drinkers)
    if whole <= 0:
        return 0.0
    return boundary(lambda m: sum(g * absorbed_share(m, t) for g, t in drinkers) < DRUNK * whole, 0.0, max(t for _, t in drinkers) + 1.0)[1]
