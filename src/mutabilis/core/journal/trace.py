"""The way of a pack: the batches and bags it went into, what of them is still there and who ate of them: certain, possible, ruled out. And back:
which packs a guest ate of. It never says that anything is safe."""

import re
import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from .summary import Packed

_PARTS = re.compile(r"[^\W\d_]+|\d+")
_SAYS_LOT = frozenset({"l", "lot", "batch", "charge", "no", "nr"})  # written or not, before what tells one lot from another


@dataclass(frozen=True, slots=True, kw_only=True)
class Use:
    """An ingredient that went into a batch: the pack it was out of ("" where none was named), the day, for whom, and what of the batch is kept
    and until when."""

    batch: str
    name: str
    day: str
    ingredient: str
    pack: str
    whom: str
    kept: str
    until: str


@dataclass(frozen=True, slots=True, kw_only=True)
class BagWith:
    """A bag of dry mix that is still there, with an ingredient of the pack in it: certain, or possible where nobody wrote its pack down."""

    bag: str
    name: str
    made: str
    left_g: float
    certain: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Trace:
    """The uses of a pack in three lists; what is still kept stands first in each. Bags that hold it stand before all."""

    bags: tuple[BagWith, ...]
    certain: tuple[Use, ...]
    possible: tuple[Use, ...]
    ruled_out: tuple[Use, ...]
    words: str


def trace(ingredient: str, pack: str, uses: Iterable[Use], bags: Sequence[BagWith] = ()) -> Trace:
    """Where a pack went, batch by batch: certain where it was named, possible where the ingredient went in and no pack was named, ruled out where
    only others were."""
    by: dict[str, list[Use]] = {}
    for u in uses:
        if u.ingredient == ingredient:
            by.setdefault(u.batch, []).append(u)
    certain, possible, out = [], [], []
    for mine in by.values():
        told = {u: same(pack, u.pack) for u in mine}
        is_it = next((u for u in mine if told[u] == "it is"), None)
        may_be = next((u for u in mine if told[u] == "may be"), None)
        if is_it is not None:
            certain.append(is_it)
        elif may_be is not None:
            possible.append(may_be)
        else:
            out.append(mine[-1])
    kept = [u for u in (*certain, *possible) if u.kept]
    words = ""
    if not certain and out:
        words = "Nobody named this pack: look how it is written, for another spelling would count as another pack. "
    words += f"{len(certain)} certain, {len(possible)} possible, {len(out)} from another pack."
    if kept:
        words += f" {len(kept)} still kept: discard it, unless whoever recalls the pack says otherwise."
    if bags:
        words += f" {len(bags)} {'bag' if len(bags) == 1 else 'bags'} of dry mix on the shelf: discard as well."
    words += " What nobody recorded is not in these lists; the maker's notice and the authorities decide."
    return Trace(bags=tuple(bags), certain=_put(certain), possible=_put(possible), ruled_out=_put(out), words=words)


def in_bag(ingredient: str, pack: str, holds: Iterable[str], packs: Mapping[str, str] | None) -> bool | None:
    """Whether a bag of dry mix that `holds` these ingredients has the pack in it: True where it was named as the bag was made, None where nobody
    named one, or not all of it; False where it was another or the bag holds none of it."""
    if ingredient not in set(holds):
        return False
    return {"it is": True, "may be": None, "is not": False}[same(pack, (packs or {}).get(ingredient, ""))]


def same(asked: str, named: str) -> Literal["it is", "may be", "is not"]:
    """Whether a pack as it was named is the one that is asked for: it is where all that is asked stands in its name; it may be where its name says
    less (the product without the lot), or nothing, or where nothing that tells packs apart is asked.

    >>> same("lot 7", "Hill eggs, lot 7"), same("Hill eggs, lot 7", "hill EGGS"), same("lot 7", "Hill eggs, lot 70"), same("lot 7", "")
    ('it is', 'may be', 'is not', 'may be')
    >>> same("L007", "Hill eggs, Lot 7"), same("lot7/B", "Hill eggs, B 7"), same("Lot", "Hill eggs, lot 7")
    ('it is', 'it is', 'may be')
    """
    wanted, has = _parts(asked), _parts(named)
    if wanted and wanted <= has:
        return "it is"
    return "may be" if has <= wanted or not wanted else "is not"


def _parts(text: str) -> set[str]:
    """What tells a pack or a name from another: its words and figures, whatever stands between them."""
    return {x.lstrip("0") or "0" for x in _PARTS.findall(unicodedata.normalize("NFKC", text).casefold())} - _SAYS_LOT


@dataclass(frozen=True, slots=True, kw_only=True)
class Eaten:
    """A batch that may have been on a guest's plate: on which day, whether the guest is known to have eaten of it, and what went in out of
    which pack."""

    batch: str
    name: str
    day: str
    whom: str
    certain: bool
    packs: tuple[Packed, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plated:
    """A batch as it is asked who ate of it: its day, for whom it was in words, the names that are known, whether others ate whose names are not
    (`others`), and its packs."""

    batch: str
    name: str
    day: str
    whom: str
    names: tuple[str, ...]
    others: bool
    packs: tuple[Packed, ...]


def back(guest: str, day: str, batches: Iterable[Plated]) -> tuple[Eaten, ...]:
    """From a guest, or a day, back to the packs: batches of which the guest is known to have eaten first, then those of which nobody knows who
    ate (or whose guests are no longer known by name). An empty guest asks for the day alone, an empty day for all of them."""
    found = []
    for b in batches:
        if day and b.day != day:
            continue
        told = {same(guest, n) for n in (*b.names, *([b.whom] if b.whom else []))} if guest.strip() else set()
        ate = any(same(guest, n) == "it is" for n in b.names) and bool(guest.strip())
        if guest.strip() and b.names and not b.others and told == {"is not"}:
            continue  # who ate is known, and it was not this guest
        found.append(Eaten(batch=b.batch, name=b.name, day=b.day, whom=b.whom, certain=ate, packs=b.packs))
    return tuple(sorted(found, key=lambda e: (not e.certain, e.day, e.batch)))


def _put(which: list[Use]) -> tuple[Use, ...]:
    return tuple(sorted(which, key=lambda u: (not u.kept, u.day, u.batch)))
