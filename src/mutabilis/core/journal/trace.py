"""From a pack to the batches it went into and the guests who ate of them: certain, possible, ruled out. It never says that anything is safe."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from ..stove.batch import Batch
from ..stove.fold import fold


@dataclass(frozen=True, slots=True, kw_only=True)
class Use:
    """An ingredient poured into a batch: the pack that was named then ("" where none was), the day, for whom, and what of it is kept and
    until when."""

    batch: str
    name: str
    day: str
    ingredient: str
    pack: str
    whom: str
    kept: str
    until: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Trace:
    """The uses of a pack in three lists; what is still kept stands first in each."""

    certain: tuple[Use, ...]
    possible: tuple[Use, ...]
    ruled_out: tuple[Use, ...]
    words: str


def uses_of(batch: Batch, day: Callable[[float], str], whom: str = "") -> tuple[Use, ...]:
    """Every ingredient that was poured into a batch, greased its surface or was laid on its pieces, with the pack that was named last for it; `day` says a moment [s since 1970] as a day,
    `whom` who is known to have eaten of it."""
    s = fold(batch.plan, batch.events)
    kept = ", ".join(f"{k.amount:g} {k.what.replace('_', ' ')}" for k in s.kept)
    named: dict[str, str] = {}
    for e in batch.events:
        if e.kind == "poured" and e.grams > 0 and e.line < len(batch.plan.lines):
            id = batch.plan.lines[e.line].ingredient or ""
            named[id] = e.pack or named.get(id, "")
        elif e.kind == "surface_chosen" and e.fat:
            named[e.fat] = e.pack or named.get(e.fat, "")
    for line in batch.plan.lines:
        if line.where == "plate" and line.ingredient:
            named.setdefault(line.ingredient, "")  # laid on at the table: of which pack, nobody wrote down
    return tuple(
        Use(
            batch=batch.id,
            name=batch.name,
            day=day(batch.finished or batch.started),
            ingredient=i,
            pack=pack,
            whom=whom or batch.whom,
            kept=kept,
            until=day(max(k.until for k in s.kept)) if s.kept else "",
        )
        for i, pack in named.items()
    )


def trace(ingredient: str, pack: str, uses: Iterable[Use]) -> Trace:
    """Where a pack went: certain where it was named, possible where the ingredient was poured and no pack was named, ruled out where
    another was."""
    mine = [u for u in uses if u.ingredient == ingredient]
    wanted = _plain(pack)

    def put(which: list[Use]) -> tuple[Use, ...]:
        return tuple(sorted(which, key=lambda u: (not u.kept, u.day, u.batch)))

    certain = [u for u in mine if u.pack and _plain(u.pack) == wanted]
    possible = [u for u in mine if not u.pack]
    out = [u for u in mine if u.pack and _plain(u.pack) != wanted]
    kept = [u for u in (*certain, *possible) if u.kept]
    words = f"{len(certain)} certain, {len(possible)} possible, {len(out)} from another pack."
    if kept:
        words += f" {len(kept)} still kept: discard it, unless whoever recalls the pack says otherwise."
    words += " What nobody recorded is not in these lists; the maker's notice and the authorities decide."
    return Trace(certain=put(certain), possible=put(possible), ruled_out=put(out), words=words)


def _plain(pack: str) -> str:
    return " ".join(pack.casefold().split())
