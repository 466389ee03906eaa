"""A change tried against itself: two halves of one bowl, plated without a label, in an order that is drawn; and what the pairs come to."""

import hashlib
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

Better = Literal["1", "2", "same"]


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialState:
    """A trial: what is changed, the two arms (as it is, and changed), pairs tasted of pairs needed, which arm is plate 1 in the next pair, what
    the pairs come to in words, and whether it is over."""

    id: str
    thing: str
    arms: tuple[str, ...]
    done: int
    needed: int
    first: int
    words: str
    over: bool


def state_of(id_: str, thing: str, arms: tuple[str, str], needed: int, results: Sequence[Better]) -> TrialState:
    """A trial after these results, each which plate was the better."""
    wins = [0, 0]
    for n, better in enumerate(results):
        if better != "same":
            wins[first_arm(id_, n) if better == "1" else 1 - first_arm(id_, n)] += 1
    over = len(results) >= needed
    return TrialState(
        id=id_, thing=thing, arms=arms, done=len(results), needed=needed, first=first_arm(id_, len(results)), words=_words(arms, wins, len(results), over), over=over
    )  # fmt: skip


def first_arm(id_: str, pair: int) -> int:
    """Which arm is plate 1 of a pair: drawn from the trial's id, so that it is the same on every screen and nobody chooses it."""
    return hashlib.sha256(f"{id_} {pair}".encode()).digest()[0] & 1


def by_chance(wins: int, of: int) -> float:
    """How often chance alone would part so many pairs so unevenly or more so, either way (the sign test).

    >>> by_chance(5, 5), by_chance(2, 4)
    (0.0625, 1.0)
    """
    if of == 0:
        return 1.0
    most = max(wins, of - wins)
    return min(1.0, math.fsum(math.comb(of, k) for k in range(most, of + 1)) / 2.0 ** (of - 1))


def _words(arms: tuple[str, str], wins: Sequence[int], done: int, over: bool) -> str:
    if done == 0:
        return ""
    told = f"“{arms[1]}” was better in {wins[1]} and “{arms[0]}” in {wins[0]} of {done} pairs."
    if not over:
        return told
    p = by_chance(wins[1], sum(wins))
    if p <= 0.1:
        return f"{told} Chance alone would part them so in {max(1, round(100 * p))} of 100."
    return f"{told} Chance alone would do as much in {round(100 * p)} of 100: these pairs do not tell them apart."
