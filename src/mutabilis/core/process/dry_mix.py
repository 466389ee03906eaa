"""A plan cut between the dry bowl and the rest: what goes into a bag ahead, what is added on the day, and how long it keeps."""

from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..balances.lift import YEASTS
from ..diets.allergens import in_words
from ..errors import CannotBe
from ..food.ingredients import Ingredient
from ..food.kitchen_measures import measure
from ..measures.profile import Profile
from ..words import listed
from .facts import ProcessFacts
from .parts import Ways
from .sorting import Item, sort_lines
from .ways import resolved, rest_and_moment


@dataclass(frozen=True, slots=True, kw_only=True)
class InBag:
    """A line in the bag: its place in the batter, its name, grams for one batch [g] and share of the bag."""

    line: int
    ingredient: str
    name: str
    grams: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ToAdd:
    """A line that is added on the day: grams for one batch and for 100 g of mix [g], and the kitchen's measure for one batch."""

    line: int
    ingredient: str
    name: str
    grams: float
    per_100g: float
    measure: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DryMix:
    """A bag of dry mix for one batch [g], what is in it and what is added, the rest on the day [min], the days it keeps, why not longer, and
    what stands on its label: what to add in words, and how to store it."""

    grams: float
    inside: tuple[InBag, ...]
    added: tuple[ToAdd, ...]
    rest_min: float
    days: int
    limit: str
    add_words: str
    store_words: str

    def times(self, jar_g: float) -> float:
        """How many batches a jar of so much mix [g] makes."""
        return jar_g / self.grams


def dry_mix(a: Analysis, facts: ProcessFacts, profile: Profile, ways: Ways | None = None) -> DryMix | None:
    """The dry mix of an analysed batter; None where nothing in it could be mixed ahead. A leavening that the rest would spend stays out
    and goes in last, as it would without a bag."""
    items = sort_lines(a, facts)
    places = bagged(items, facts, rest_and_moment(a, resolved(ways or Ways(), a.batter))[1] == "dry")
    inside = [x for x in items if x.at in places]
    total = sum(x.grams for x in inside)
    if len(inside) < 2 or total <= 0:
        return None
    added = tuple(
        ToAdd(
            line=x.at, ingredient=x.i.id, name=x.i.short, grams=x.grams, per_100g=100 * x.grams / total, measure=measure(x.i, x.grams, profile)
        )
        for x in items
        if x.inside and x.at not in places
    )  # fmt: skip
    days, limit = min(((_days(x.i, facts), x.i.short) for x in inside), key=lambda d: (d[0], d[1]))
    return DryMix(
        grams=total, inside=tuple(InBag(line=x.at, ingredient=x.i.id, name=x.i.short, grams=x.grams, share=x.grams / total) for x in inside),
        added=added, rest_min=a.bowl.rest_min, days=days, limit=limit, add_words=_add_words(added, total, a.bowl.rest_min), store_words=facts.process.dry_mix.bag.label,
    )  # fmt: skip


def made_ahead(a: Analysis, facts: ProcessFacts, profile: Profile) -> DryMix:
    """As `dry_mix`; CannotBe where nothing could be mixed ahead."""
    mix = dry_mix(a, facts, profile)
    if mix is None:
        raise CannotBe("nothing in this batter can be mixed ahead: it has less than two dry things")
    return mix


def label(name: str, mix: DryMix, a: Analysis, made: str, use_by: str, facts: ProcessFacts, profile: Profile) -> tuple[str, ...]:
    """What stands on a bag, with its two days written out. Its allergens are those of the whole batter: whoever eats of it eats all of it."""
    contains, may = (", ".join(map(in_words, x)) for x in (a.contains, a.may_contain))
    inside = [f"{measure(facts.ingredients[x.ingredient], x.grams, profile) or f'{x.grams:.0f} g'} {x.name}" for x in mix.inside]
    return (
        f"{name}: dry mix", f"Made {made} · use by {use_by}", f"For one batch: {mix.grams:.0f} g. {mix.add_words}",
        f"In {mix.grams:.0f} g: {', '.join(inside)}", f"Contains, made up: {contains or 'none of the listed allergens that is known'}",
        *((f"May contain: {may}",) if may else ()), mix.store_words,
    )  # fmt: skip


def bagged(items: list[Item], facts: ProcessFacts, leavening: bool) -> frozenset[int]:
    """The places of the lines that go into a bag; the leavening only where it is wetted with the dry anyway."""
    t = facts.process.dry_mix.bag
    scalds = any("boiling" in x.states for x in items if x.inside)  # what boiling liquid is poured over is weighed on the day
    return frozenset(
        x.at
        for x in items
        if x.inside
        and x.use == "dry"
        and x.i.water_g < t.water_g
        and (x.i.fat_g < t.fat_g or x.i.group in ("nut_seed_flour", "protein_powder"))
        and x.i.group not in t.not_groups
        and x.i.id not in (*t.not_things, *YEASTS)
        and not {"ground", "scalded", "boiling", "cooked"} & set(x.states)
        and (leavening or x.i.group != "leavener")
        and not (scalds and x.i.is_flour)
    )


def _days(i: Ingredient, facts: ProcessFacts) -> int:
    t = facts.process.dry_mix
    if i.group == "nut_seed_flour":
        return t.days.nut_seed_flour
    if i.group == "leavener":
        return t.days.leavener
    if i.id.endswith("_powder") and {x.partition(":")[0] for x in i.allergens} & {"milk", "egg"}:
        return t.days.dairy_or_egg_powder
    if i.is_flour and (i.fat_g >= t.whole_grain.fat or i.fibre_g >= t.whole_grain.fibre):
        return t.days.whole_grain
    return t.days.default


def _add_words(added: tuple[ToAdd, ...], grams: float, rest_min: float) -> str:
    said = [x.measure if x.measure and "egg" in x.measure and "." not in x.measure else f"{_grams(x.grams)} g {x.name}" for x in added]
    rest = f"; let it rest {rest_min:.0f} minutes" if rest_min > 0 else ""
    return f"Add {listed(said) if said else 'nothing'} to {grams:.0f} g of mix{rest}."


def _grams(grams: float) -> str:
    return f"{grams:.0f}" if grams >= 10 else f"{grams:.1f}".rstrip("0").rstrip(".")
