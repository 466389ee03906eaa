"""How an adaptation is gone about: what may yield, which faults of the base go, and what kind of answer is sought."""

from dataclasses import dataclass
from typing import Literal

from ..food.ingredients import FLOURS, LIQUIDS

Kind = Literal["nearest", "larder", "least_to_buy", "most_protein", "simplest"]

_LIFT = ("alkali_left", "acid_left", "lift_none", "lift_low", "lift_high", "lift_excessive")
_LIQUIDS = frozenset(LIQUIDS)
# What may move so that a fault goes, by group, and for whose groups a stand-in may be fetched. The liquids close the flow.
_MOVES: dict[str, tuple[frozenset[str], frozenset[str]]] = {
    **{code: (frozenset({"leavener", "acid"}), frozenset({"leavener"})) for code in _LIFT},
    "lift_twice": (frozenset({"acid"}), frozenset()),
    "water_missing": (frozenset({*FLOURS, "binder", "leavener"}), frozenset({"water_juice"})),
    "set_weak": (frozenset({"egg", "binder"}), frozenset({"egg"})),
    "set_rubbery": (frozenset({"egg", "egg_replacer", "protein_powder", *FLOURS}), frozenset({"water_juice"})),
    "salty": (frozenset({"salt"}), frozenset()),
}
_ROLES = frozenset({"leavener", "acid", "liquid", "egg", "binder"})  # what a mend may fetch


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """`free_flours` lets flours go that could stay; `soft_caps`: ceilings a serving yield before the batter does; `cap_share` of a
    ceiling is aimed at; `eased`: whatever must hold may be missed, so that something is shown rather than nothing.

    `mends` are the codes of the base's faults that the answer must not have; with `mend_alone` nothing moves but what that takes.
    `kind` of answer; `at_hand`: what need not be bought.
    """

    free_flours: bool = False
    soft_caps: bool = False
    cap_share: float = 0.985
    eased: bool = False
    mends: frozenset[str] = frozenset()
    mend_alone: bool = False
    kind: Kind = "nearest"
    at_hand: frozenset[str] = frozenset()

    @property
    def mends_lift(self) -> bool:
        """Whether gas, acid or alkali are at fault."""
        return bool(self.mends & set(_LIFT))

    @property
    def movable(self) -> frozenset[str]:
        """Groups that may move where nothing else does."""
        return _LIQUIDS.union(*(_MOVES[code][0] for code in self.mends))

    @property
    def offered(self) -> frozenset[str]:
        """Groups whose stand-ins may be fetched to mend the faults."""
        offered = frozenset[str]().union(*(_MOVES[code][1] for code in self.mends))
        return offered - {"leavener"} if "lift_twice" in self.mends else offered  # the flour has its own

    @property
    def leaves_liquid(self) -> bool:
        """Whether the liquid stays where it is as long as the flow does."""
        return self.mend_alone and not self.wets

    @property
    def wets(self) -> bool:
        """Whether the base lacks water for its own flour: then its size and its body are no measure."""
        return "water_missing" in self.mends

    def may_fetch(self, role: str) -> bool:
        """Whether something new of a role may go in."""
        return not self.mend_alone or role in _ROLES


STRAIGHT = Course()
