"""Pieces of one batter, cut into loads: those wanted at about one time lie together."""

from collections.abc import Sequence
from typing import NamedTuple


class Piece(NamedTuple):
    """One piece: whose, when it is wanted [s], and at which table."""

    guest: str
    due: int
    table: tuple[str, int]


def cuts(pieces: Sequence[Piece], places: int, hold_s: int, free_s: int, load_costs: float) -> list[list[Piece]]:
    """The cheapest cuts of a list in the order of its hours.

    Every load costs `load_costs` (the seconds it keeps its surface), every piece the seconds it waits beyond `free_s` for the later hour;
    none waits longer than `hold_s`. Dynamic programming over the cuts: exact, in pieces × places.

    >>> [len(c) for c in cuts([Piece("a", 0, ("1", 0))] * 5, 2, 900, 300, 300.0)]
    [2, 2, 1]
    """
    queue = sorted(pieces, key=lambda p: (p.due, p.table, p.guest))
    best: list[tuple[float, int]] = [(0.0, 0)]
    for end in range(1, len(queue) + 1):
        options = []
        for begin in range(max(0, end - places), end):
            first = queue[begin].due
            if queue[end - 1].due - first > hold_s:
                continue
            waits = sum(max(0, p.due - first - free_s) for p in queue[begin:end])
            # Among equals the fuller load first: what is left over is then made last, when there is most room.
            options.append((best[begin][0] + load_costs + waits, -begin, begin))
        cost, _, begin = min(options)
        best.append((cost, begin))
    found, end = [], len(queue)
    while end:
        begin = best[end][1]
        found.append(queue[begin:end])
        end = begin
    return found[::-1]
