"""How one piece cooks on a surface: turned, browned, safe and done. No clock, no device: temperatures are handed in."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from ..batter.batter import FormKey
from ..batter.flow import DENSITY
from ..errors import CannotBe
from .conduction import CELL_M, Array, Conduction
from .tables import Brown, Crumb, FormHeat, GreaseKey, HeatTables

Verdict = Literal["works", "pale", "dark", "burnt", "raw"]
State = Literal["raw", "safe", "set"]
MOST_CELLS = 24
FRAME_S = 2.0  # between two profiles that are kept for the picture
KELVIN = 273.15


def browning_rate(brown: Brown, celsius: float) -> float:
    """Browning a second at a surface of `celsius` [°C]: exp(−E/R·(1/T − 1/T_ref))/t_ref.

    Arrhenius; the scale is ours: 60 s at 150 °C is 1, golden from a half to 2, burnt above 5.
    """
    t = celsius + KELVIN
    return math.exp(-brown.activation / brown.gas_constant * (1 / t - 1 / (brown.reference_c + KELVIN))) / brown.reference_s


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame:
    """The piece at one moment: seconds, temperatures from the bottom to the top of the piece as it was poured [°C], where it has set (by
    the heat that it has had, not by the moment's), browning of the first side and the second, and which is down. `state`: of the whole of
    it, "raw" until every point has been safe, then "safe", and "set" once every point has set as well."""

    at_s: float
    profile_c: tuple[float, ...]
    has_set: tuple[bool, ...]
    state: State
    first_brown: float
    second_brown: float
    turned: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class _Kept:
    """A moment as the reckoning has it, the under side first; turned over once the piece is."""

    at: float
    profile: Array
    has_set: Any
    state: State
    first: float
    second: float
    turned: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Cooking:
    """How one piece cooks. Seconds from the pour: when to turn (None where it is not turned), when every point has been safe, when
    it is done; browning of both sides at the end, and of the under side when the middle was first safe; the share of the batter
    that steamed off; the verdict in a word. `heat_balance` is the account's error as a share."""

    thickness_mm: float
    celsius: float
    turn_s: float | None
    safe_s: float | None
    done_s: float | None
    first_brown: float
    second_brown: float
    first_brown_at_safe: float
    steamed_share: float
    centre_c: float
    verdict: Verdict
    heat_balance: float
    kept: tuple[_Kept, ...] = field(repr=False, compare=False, default=())

    def frames(self, points: int = 25) -> tuple[Frame, ...]:
        """What was kept for the picture, each profile at so many points from the bottom to the top of the piece as it was poured."""
        return tuple(_frame(x, points) for x in self.kept)


def cook(
    facts: HeatTables, form: FormKey, thickness_mm: float, celsius: float, grease: GreaseKey = "film", start_c: float = 20.0,
    brown_factor: float = 1.0, cell: float | None = None, step: float | None = None, turn_at: float | None = None,
) -> Cooking:  # fmt: skip
    """Cook a piece of risen `thickness_mm` [mm] on a surface (or in an oven) of `celsius` [°C].

    Turned when its upper face has reached the form's mark and its under side has browned (or at `turn_at` [s], where the cook turns
    by the clock); done when the second side has browned, every point has set and has been safe (71 °C). Setting is a matter of
    time and heat: ∫ 10^((T − 90 °C)/z) dt must come to so many seconds, which a point that passes 90 °C has at once. `brown_factor`
    scales the browning of this batter and surface. CannotBe for a thickness or a heat that is none.
    """
    if not 0.2 <= thickness_mm <= 80 or not 60 <= celsius <= 350:
        raise CannotBe("a piece is 0.2 to 80 mm thick, and a surface 60 to 350 °C hot")
    how, brown, crumb = facts.form[form], facts.brown, facts.crumb
    greased = facts.grease[grease]
    contact = how.contact * (greased.contact if form != "tray" else 1.0)
    step = step or how.step_s
    speed = brown_factor * greased.brown
    body = Conduction(crumb, thickness_mm / 1000, start_c, cell or max(CELL_M, thickness_mm / 1000 / MOST_CELLS), step)
    above_c, above = (facts.air.room_c, facts.air.contact) if how.above is None else (celsius, how.above * (contact / how.contact))
    both, turned = how.above is not None, False
    wet = crumb.latent * crumb.density * thickness_mm / 1000  # J/m², all of the piece as steam
    most, dose = body.at.copy(), np.zeros(body.n)
    per_degree = np.log(10) / crumb.set_z
    first = second = at_safe = 0.0
    turn_s = safe_s = done_s = None
    kept = [_Kept(at=0.0, profile=body.at, has_set=dose >= crumb.set_s, state="raw", first=0.0, second=0.0, turned=False)]

    def keep() -> None:
        has_set = dose >= crumb.set_s
        state: State = "raw" if most.min() < crumb.safe_c else "set" if has_set.all() else "safe"
        kept.append(_Kept(at=at, profile=body.at, has_set=has_set, state=state, first=first, second=second, turned=turned))

    every = max(1, round(FRAME_S / step))
    at = 0.0
    for n in range(1, round(min(how.too_long_s * 2, 3600) / step) + 1):
        low, high = body.go(celsius, contact, above_c, above)
        at = n * step
        most = np.maximum(most, body.at)
        dose += step * np.exp(per_degree * (body.at - crumb.set_c))
        gain = browning_rate(brown, low + how.spots * max(0.0, celsius - low)) * step * speed
        if turned:
            second += gain
        else:
            first += gain
        if both:
            second += browning_rate(brown, high) * step * speed
        elif turned:
            first += browning_rate(brown, high) * step * speed
        if safe_s is None and most.min() >= crumb.safe_c:
            safe_s, at_safe = at, first
        if n % every == 0:
            keep()
        if not both and not turned:
            ready = at >= turn_at if turn_at is not None else high >= how.turn_top_c and first >= brown.turn
            if ready:
                turn_s, turned = at, True
                body.turn()
                most, dose = most[::-1].copy(), dose[::-1].copy()
            continue
        wanted = how.second if how.second is not None else brown.second
        browned = second >= (how.brown if both else wanted) and body.steamed >= how.steamed * wet
        if browned and safe_s is not None and dose.min() >= crumb.set_s:
            done_s = at
            break
    keep()
    steam = body.steamed / wet
    account = abs(body.taken - body.stored - body.steamed) / max(abs(body.taken), 1e-9)
    verdict = judged(brown, how, done_s, safe_s, first, second)
    return Cooking(
        thickness_mm=thickness_mm, celsius=celsius, turn_s=turn_s, safe_s=safe_s, done_s=done_s, first_brown=first, second_brown=second, first_brown_at_safe=at_safe if safe_s is not None else first, steamed_share=steam,
        centre_c=float(body.at[body.n // 2]), verdict=verdict, heat_balance=account, kept=tuple(kept),
    )  # fmt: skip


def _frame(x: _Kept, points: int) -> Frame:
    at, n = np.linspace(0, len(x.profile) - 1, points), len(x.profile)
    profile, has_set = (x.profile[::-1], x.has_set[::-1]) if x.turned else (x.profile, x.has_set)
    shown = np.interp(at, np.arange(n), profile)
    return Frame(
        at_s=x.at, profile_c=tuple(np.round(shown, 1).tolist()), has_set=tuple(has_set[np.round(at).astype(int)].tolist()), state=x.state,
        first_brown=round(x.first, 3), second_brown=round(x.second, 3), turned=x.turned,
    )  # fmt: skip


def judged(brown: Brown, how: FormHeat, done_s: float | None, safe_s: float | None, first: float, second: float) -> Verdict:
    """The verdict on a piece, by when it was done and safe [s] and how its sides have browned."""
    most = max(first, second)
    if safe_s is None:
        return "raw"
    if most > brown.burnt:
        return "burnt"
    if done_s is None or done_s > how.too_long_s:
        return "pale"
    return "dark" if most > brown.dark else "works"


def risen_mm(poured_mm: float, crumb: Crumb, poured_density: float = DENSITY) -> float:
    """Risen thickness [mm] of batter poured so thick [mm]: L = ρ_batter/ρ_crumb times.

    >>> round(risen_mm(6.0, Crumb(conductivity=0.4, density=700, heat_capacity=2900, latent=2.257e6, boils_c=100, free_water=0.45, set_c=90, set_z=5, set_s=5, safe_c=71)), 2)
    9.0
    """
    return poured_mm * poured_density / crumb.density


def smokes_at(facts: HeatTables, fats: Mapping[str, float] | tuple[str, ...]) -> float | None:
    """The lowest smoke point [°C] of the fats given by ingredient; None where none of them has one."""
    return min((facts.smoke[f] for f in fats if f in facts.smoke), default=None)
