"""What the demo's house remembers of its six weeks beside the batches themselves: photographs, three faults explained, and a pack that was called
back."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from mutabilis.core.journal.served import Served
from mutabilis.store.journal import Journal, Said
from mutabilis.store.stove import Logged

from .plate import plate

EXPLAINED = ("thick", "flat", "raw", "dense", "pale")  # three of these, a batch each
BROWN = {"raw": 0.15, "pale": 0.1}
PHOTOS = 3
GUESTS = (("Ivo Sand", "coeliac"), ("Juna Pell", "vegan"), ("Finn Ostra", ""))
RECALLED = "egg"


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """A batch of the log as the demo needs it: its line, its faults, and the packs of eggs that went into it."""

    line: Logged
    faults: tuple[str, ...]
    packs: tuple[str, ...]


def remember(
    seen: Sequence[Seen], journal: Journal, keep_photo: Callable[[str, bytes], None], take: Callable[[str, str], None]
) -> str:  # fmt: skip
    """Put it into the journal (`seen`: the latest first); the pack that was called back. `keep_photo` keeps a picture of a batch, `take` carries the
    likeliest correction of a batch along under an id."""
    good = [x for x in seen if (x.line.stars or 0) >= 5 and x.line.pieces > 0][:PHOTOS]
    for n, x in enumerate(good):
        keep_photo(x.line.id, plate(n, x.line.pieces, 0.4))
    bad: dict[str, Seen] = {}
    for fault in EXPLAINED:
        one = next((x for x in seen if fault in x.faults and x not in bad.values()), None)
        if one is not None and len(bad) < PHOTOS:
            bad[fault] = one
    for n, (fault, x) in enumerate(bad.items()):
        keep_photo(x.line.id, plate(20 + n, x.line.pieces, BROWN.get(fault, 0.4)))
        journal.say(x.line.id, Said(id=f"demo-why-{n:04d}", kind="faults", faults=x.faults, when="all"))
        if n == 0:
            take(x.line.id, f"{n:016x}")
    packs = [p for x in seen for p in x.packs]
    recalled = next((p for p in dict.fromkeys(packs) if packs.count(p) > 2), "")
    mine = [x for x in seen if recalled and recalled in x.packs]
    for n, x in enumerate(mine):
        rows = [Served(load=k, at=x.line.finished, name=name, needs=needs, pieces=2) for k, (name, needs) in enumerate(GUESTS)]
        journal.serve(x.line.id, rows[n % 2 :])
    if mine:
        text = f"The farm has called back its pack “{recalled}”: traced, the guests told, what was kept thrown away."
        journal.say(mine[0].line.id, Said(id="demo-recall", kind="remark", who="the house", text=text))
    return recalled
