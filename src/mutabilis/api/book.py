"""The Book: batters, their families, what came of them, comparing and finding them."""

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import FormKey
from mutabilis.core.batter.compare import Pair, changed, pairs
from mutabilis.core.book.versions import Id, Made, Name, NewVersion, Standing, Version, standing_of
from mutabilis.core.diets.verdicts import Verdict, judge_ingredient
from mutabilis.core.food.ingredients import GROUPS

from .context import PROBLEMS, Context, Here
from .views import BatterView, batter_view

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["book"])
MOST_SIEVED = 400  # versions judged whole for one page of a filter


class NewBatter(BaseModel):
    """A batter to be put in the Book, with its first version."""

    model_config = ConfigDict(extra="forbid")

    name: Name
    version: Annotated[NewVersion, Field()]


class NewName(BaseModel):
    """Another name, or the archive."""

    model_config = ConfigDict(extra="forbid")

    name: Name | None = None
    archived: bool | None = None


class NewMade(BaseModel):
    """A time a version was made; `id` may be chosen by whoever says so."""

    model_config = ConfigDict(extra="forbid")

    good: bool
    note: Annotated[str, Field(max_length=1000)] = ""
    id: Id | None = None


class Two(BaseModel):
    """Two versions to lay beside each other."""

    model_config = ConfigDict(extra="forbid")

    left: Annotated[str, Field(max_length=40)]
    right: Annotated[str, Field(max_length=40)]


class Badge(BaseModel):
    """The verdict of a diet on a version, batter and plate together."""

    diet: str
    label: str
    verdict: Verdict


class Member(BaseModel):
    """A version in its family: what changed against its parent in one line, its badges, its standing."""

    id: str
    number: int
    parent: str | None
    form: FormKey
    changed: str
    note: str
    saved: str
    badges: tuple[Badge, ...]
    standing: Standing
    made: tuple[Made, ...]
    photo: str | None = None


class Family(BaseModel):
    """A batter with its versions as a tree: each names its parent."""

    id: str
    name: str
    form: str
    archived: str | None
    versions: tuple[Member, ...]


class Found(BaseModel):
    """A batter in the list: how many versions, what the latest is for, and the best standing among them. With a filter, `match` is
    the latest version that passes it. `made`: how often, all versions together; `last_made`, `stars`: when last, and how it was
    rated then."""

    id: str
    name: str
    form: str
    archived: str | None
    versions: int
    match: str
    diets: tuple[str, ...]
    note: str
    saved: str
    standing: Standing
    made: int
    last_made: str
    stars: int | None


class Shelf(BaseModel):
    """A part of the list, and how many there are in all; `more` where the filter did not look at all of them."""

    batters: tuple[Found, ...]
    total: int
    more: bool


class Comparison(BaseModel):
    """Two versions side by side, line by line and balance by balance."""

    left: Version
    right: Version
    pairs: tuple[Pair, ...]
    changed: str
    left_view: BatterView
    right_view: BatterView


@router.get("/book")
def shelf(
    here: Here,
    q: Annotated[str, Query(max_length=200)] = "",
    diet: Annotated[str, Query(max_length=60)] = "",
    form: FormKey | None = None,
    larder: bool = False,
    archived: bool = False,
    offset: Annotated[int, Query(ge=0, le=100_000)] = 0,
    limit: Annotated[int, Query(ge=1, le=100)] = 40,
) -> Shelf:
    """Batters by search and filter. A diet's filter lets through what the core judges to fit, and nothing else."""
    if diet:
        here.check_diets((diet,))
    ids = here.book.newest(q, archived, form)
    if not diet and not larder:
        return Shelf(
            batters=tuple(_found(e.id, None, here) for e in here.book.entries(ids[offset : offset + limit])), total=len(ids), more=False
        )
    passed, looked = _sieved(ids, diet, larder, here, offset + limit)
    page = passed[offset : offset + limit]
    return Shelf(batters=tuple(_found(batter, match, here) for batter, match in page), total=len(passed), more=looked < len(ids))


def _found(batter_id: str, match: str | None, here: Context) -> Found:
    entry = here.book.entries([batter_id])[0]
    last = next((v for v in entry.versions if v.id == match), entry.versions[-1])
    latest = max(entry.versions, key=lambda v: v.last_made)
    order: tuple[Standing, ...] = ("untested", "made", "proven")
    return Found(
        id=entry.id, name=entry.name, form=entry.form, archived=entry.archived, versions=len(entry.versions), match=last.id, diets=last.diets,
        note=last.note, saved=last.saved, standing=max((v.standing for v in entry.versions), key=order.index),
        made=sum(v.made for v in entry.versions), last_made=latest.last_made, stars=latest.stars,
    )  # fmt: skip


def _sieved(ids: list[str], diet: str, larder: bool, here: Context, wanted: int) -> tuple[list[tuple[str, str]], int]:
    """Batters with a version that passes, up to the number wanted and a few more, and how many batters were looked at."""
    facts, profile = here.facts, here.profile()
    denied: set[str] = set()
    if diet:
        rule = facts.diets[diet]
        denied |= {i.id for i in facts.ingredients.values() if judge_ingredient(i, rule, profile, here.readings.get(i.id))[0] != "fits"}
    if larder:
        denied |= facts.ingredients.keys() - set(here.in_stock())
    versions = here.book.without(ids, sorted(denied))
    passed: list[tuple[str, str]] = []
    judged = 0
    for n, batter in enumerate(ids):
        if len(passed) > wanted or judged >= MOST_SIEVED:
            return passed, n
        for one in versions.get(batter, ()):
            if not diet:
                passed.append((batter, one))
                break
            judged += 1
            a = analyse(here.book.version(one).batter, facts, profile, {diet: facts.diets[diet]}, here.readings)
            if a.diets[diet].verdict == "fits":
                passed.append((batter, one))
                break
    return passed, len(ids)


@router.get("/batters/{batter_id}")
def family(batter_id: str, here: Here) -> Family:
    """A batter's family tree."""
    sheet = here.book.sheet(batter_id)
    facts, profile = here.facts, here.profile()
    by_id = {v.id: v for v in sheet.versions}
    photos = here.photos.newest(tuple(by_id))
    members = []
    for v in sheet.versions:
        rules = {k: facts.diets[k] for k in v.diets if k in facts.diets}
        a = analyse(v.batter, facts, profile, rules, here.readings) if rules else None
        badges = tuple(Badge(diet=k, label=facts.diets[k].label, verdict=a.plate.diets[k].verdict) for k in rules) if a else ()
        parent = by_id.get(v.parent or "")
        made = tuple(m for m in sheet.made if m.version_id == v.id)
        members.append(
            Member(
                id=v.id, number=v.number, parent=v.parent, form=v.batter.form, changed=changed(parent.batter, v.batter, facts) if parent else "",
                note=v.note, saved=v.saved, badges=badges, standing=standing_of([m.good for m in made]), made=made, photo=photos[v.id].id if v.id in photos else None,
            )
        )  # fmt: skip
    return Family(id=sheet.id, name=sheet.name, form=sheet.form, archived=sheet.archived, versions=tuple(members))


@router.get("/versions/{version_id}")
def version(version_id: str, here: Here) -> Version:
    """One version with its lines."""
    return here.book.version(version_id)


@router.post("/compare")
def compare(two: Two, here: Here) -> Comparison:
    """Two versions beside each other, with their balances, for the diets of either."""
    left, right = here.book.version(two.left), here.book.version(two.right)
    facts, profile = here.facts, here.profile()
    diets = tuple(k for k in dict.fromkeys((*left.diets, *right.diets)) if k in facts.diets)
    rules = {k: facts.diets[k] for k in diets}
    views = [batter_view(analyse(v.batter, facts, profile, rules, here.readings), diets, here) for v in (left, right)]
    return Comparison(
        left=left, right=right, pairs=pairs(left.batter, right.batter, facts), changed=changed(left.batter, right.batter, facts), left_view=views[0],
        right_view=views[1],
    )  # fmt: skip


@router.post("/batters", status_code=201)
def add(new: NewBatter, here: Here) -> Version:
    """Put a new batter in the Book."""
    here.check(new.version.batter)
    return here.book.add(new.name, new.version)


@router.patch("/batters/{batter_id}", status_code=204)
def change(batter_id: str, new: NewName, here: Here) -> None:
    """Rename a batter, put it away, or take it out again."""
    if new.name is not None:
        here.book.rename(batter_id, new.name)
    if new.archived is not None:
        here.book.archive(batter_id, new.archived)


@router.post("/batters/{batter_id}/versions", status_code=201)
def save(batter_id: str, new: NewVersion, here: Here) -> Version:
    """Save a further version."""
    here.check(new.batter)
    return here.book.save(batter_id, new)


@router.post("/versions/{version_id}/duplicate", status_code=201)
def duplicate(version_id: str, here: Here) -> Version:
    """A new batter that begins with a copy of a version."""
    old = here.book.version(version_id)
    note = f"A copy of {old.name}, version {old.number}." + (f" {old.note}" if old.note else "")
    return here.book.add(f"{old.name[:110]} (copy)", NewVersion(batter=old.batter, diets=old.diets, note=note[:4000]))


@router.post("/versions/{version_id}/made", status_code=201)
def made(version_id: str, new: NewMade, here: Here) -> Made:
    """Say that a version was made, and whether it came out good."""
    return here.book.made(version_id, new.good, new.note, new.id)


@router.delete("/made/{made_id}", status_code=204)
def unmade(made_id: str, here: Here, back: bool = False) -> None:
    """Take that back, or (`back`) let it stand again."""
    here.book.withdraw(made_id, back)


class Hit(BaseModel):
    """One thing found: what kind it is, where it leads, its name and a word beside it."""

    kind: str
    id: str
    name: str
    beside: str


@router.get("/find")
def find(here: Here, q: Annotated[str, Query(max_length=200)]) -> tuple[Hit, ...]:
    """Batters and ingredients by name, for the box that finds anything."""
    if not q.strip():
        raise HTTPException(422, "nothing was asked for")
    facts = here.facts
    entries = here.book.entries(here.book.newest(q)[:8])
    hits = [Hit(kind="batter", id=e.id, name=e.name, beside=facts.forms[e.form].label) for e in entries]  # type: ignore[index]
    hits += [
        Hit(kind="ingredient", id=id_, name=facts.ingredients[id_].name, beside=GROUPS[facts.ingredients[id_].group])
        for id_ in facts.names.search(q, 8)
    ]
    return tuple(hits)
