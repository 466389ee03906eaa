"""From grams to the lines of a batter: what stays keeps the cook's own words, what is on the plate is changed by its kind."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from ..analysis.analysis import analyse
from ..batter.batter import Batter, BatterLine
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import beside_fits, per_100g
from ..food.ingredients import LIQUIDS, Ingredient, least
from ..measures.profile import Profile
from ..reading.own_names import called
from .candidates import Candidate, available, denied, whole_step
from .facts import AdaptFacts
from .rounding import to_step

ORDER = (
    ("wheat_flour", "gluten_free_flour", "grain_meal", "nut_seed_flour", "protein_powder"), ("starch",), ("binder",), LIQUIDS, ("acid",),
    ("egg", "egg_replacer", "fruit_puree", "vegetable"), ("fat_solid", "fat_oil", "nut_butter"),
    ("sugar", "liquid_sweetener", "polyol_sweetener", "intense_sweetener"), ("leavener",),
)  # fmt: skip
HOT = "boiling"
WHOLE_EGG = 0.06  # of an egg: nearer than this to whole ones, they are taken whole; else beaten, and weighed


@dataclass(slots=True, kw_only=True)
class Writer:
    """Writes the answers of one base. `whipped`: what takes the state of whipped whites; `resized`: the base was brought to another size, so
    that none of its lines says any more what it weighs."""

    base: Batter
    rules: Mapping[str, DietRule]
    facts: AdaptFacts
    profile: Profile
    readings: Mapping[str, PackReading]
    whipped: frozenset[str] = frozenset()
    resized: bool = False
    plate_swaps: list[tuple[BatterLine, BatterLine | None]] = field(default_factory=list)

    def batter(self, rounded: Sequence[tuple[Candidate, float]], form: str, servings: float) -> Batter:
        """The batter of an answer; `plate_swaps` then says what changed on its plate, or was left off."""
        self.plate_swaps = []
        batter = self.base.model_copy(update={"lines": tuple(self._lines(rounded)), "form": form, "servings": servings})
        return self._without_excess(batter)

    def _lines(self, rounded: Sequence[tuple[Candidate, float]]) -> list[BatterLine]:
        left = {c.ingredient.id: (c, g) for c, g in rounded}
        on_plate: set[str] = set()
        lines: list[BatterLine] = []
        hot = False  # something boiling had to go: what stands in for it goes in as hot
        for line in self.base.lines:
            if not line.known:
                lines.append(line)
            elif line.where == "plate":
                others = {x.ingredient for x in self.base.lines if x.where == "plate" and x.ingredient}
                changed = self._plate(line, on_plate | others)
                if changed is None or changed.ingredient != line.ingredient:
                    self.plate_swaps.append((line, changed))
                if changed is not None and changed.ingredient is not None:
                    on_plate.add(changed.ingredient)
                    lines.append(_weighed(changed, self.facts) if self.resized else changed)
            elif line.ingredient in left:
                c, g = left.pop(line.ingredient)
                same = abs(g - line.grams) <= 1e-9
                if same and self.resized:
                    g, same = _on_a_scale(c.ingredient, g), False
                lines.append(self._chosen(line) if same else self._moved(line, c.ingredient, g))
            elif HOT in line.states:
                hot = True
        for c, g in sorted(left.values(), key=lambda pair: pair[0].ingredient.id):
            line = self._line(c.ingredient, g)
            if hot and c.ingredient.group in LIQUIDS:
                line = line.model_copy(update={"states": (HOT,), "text": f"{line.text}, {HOT}"})
            lines.append(line)
        return sorted(lines, key=self._place)

    def _place(self, line: BatterLine) -> tuple[int, int]:
        if line.ingredient is None:
            return (15, 0)
        group = self.facts.ingredients[line.ingredient].group
        at = next((n for n, groups in enumerate(ORDER) if group in groups), len(ORDER))
        return (at + (20 if line.where == "plate" else 0), -int(line.grams * 10))

    def _line(self, i: Ingredient, grams: float, name: str = "") -> BatterLine:
        doubt = max(0.5, 0.01 * grams) if grams >= 3 else 0.05 * grams
        return BatterLine(
            text=amount_in_words(i, grams, name or i.name), ingredient=i.id, grams=grams, low=max(0.0, grams - doubt), high=grams + doubt,
            confidence=least("high", i.confidence), states=("whipped",) if i.id == "aquafaba" and i.id in self.whipped else (),
        )  # fmt: skip

    def _moved(self, line: BatterLine, i: Ingredient, grams: float) -> BatterLine:
        """The line at another amount, by the cook's own name for it; what it leaves open stays open."""
        update = {"states": line.states, "also": line.also, "heard": line.heard, "unread": line.unread, "guessed": line.guessed}
        return self._line(i, grams, _name(line, i, self.facts)).model_copy(update=update)

    def _chosen(self, line: BatterLine) -> BatterLine:
        """The line with its own food chosen, where what it leaves open would not fit: its words then name that food alone."""
        fits = (beside_fits(line, rule, self.facts, self.profile, self.readings) for rule in self.rules.values())
        if line.ingredient and line.maybe and not all(fits):
            text = f"{round(line.grams, 1):g} g {self.facts.ingredients[line.ingredient].name}"
            return line.model_copy(update={"text": text, "maybe": (), "alternative": None, "alternative_text": None})
        return line

    def _plate(self, line: BatterLine, taken: set[str]) -> BatterLine | None:
        """A plate line that the diets deny is changed for the nearest of its kind that fits, gram for gram, each only once;
        None where nothing fits: it is left off."""
        assert line.ingredient is not None
        i, craft = self.facts.ingredients[line.ingredient], self.facts.craft
        line = self._chosen(line)
        beside = line.model_copy(update={"unread": (), "guessed": ""})
        fits = not denied(i, self.rules, self.profile, self.readings)
        if fits and all(beside_fits(beside, rule, self.facts, self.profile, self.readings) for rule in self.rules.values()):
            return line
        stand_ins = [self._available(x) for x in craft.stand_ins(i.id)]
        if stand_ins or i.group == "mix_in":
            other = next((x for x in stand_ins if x is not None and x.id not in taken), None)
        else:
            near = sorted((u.replaces[i.group] + u.oddness, u.ingredient) for u in craft.usages if i.group in u.replaces)
            other = next((x for _, id_ in near if (x := self._available(id_)) is not None), None)
        if other is None:
            return None
        update = {"where": "plate", "low": line.low, "high": line.high, "confidence": line.confidence}
        return self._line(other, line.grams).model_copy(update=update)

    def allows(self, id_: str) -> bool:
        """Whether the diets allow an ingredient, or its certified twin."""
        return self._available(id_) is not None

    def _available(self, id_: str) -> Ingredient | None:
        return available(id_, self.rules, self.facts, self.profile, self.readings)

    def _without_excess(self, batter: Batter) -> Batter:
        """The batter without what of its plate would break a limit a serving, the richest in it first."""
        limited = [k for k, rule in self.rules.items() if rule.limits]
        while limited and any(line.where == "plate" for line in batter.lines):
            a = analyse(batter, self.facts, self.profile, self.rules, self.readings)
            broken = (k for k in limited if a.diets[k].verdict == "fits" and a.plate.diets[k].verdict != "fits")
            over = next((limit.nutrient for k in broken for limit in self.rules[k].limits), None)
            on_it = [line for line in batter.lines if line.where == "plate" and line.ingredient]
            if over is None or not on_it:
                break
            most = max(on_it, key=lambda x: x.grams * per_100g(self.facts.ingredients[x.ingredient or ""], over))
            self.plate_swaps.append((most, None))
            batter = batter.model_copy(update={"lines": tuple(x for x in batter.lines if x is not most)})
        return batter


def in_whole_grams(batter: Batter, facts: AdaptFacts) -> Batter:
    """A batter that was brought to another size, in amounts that a scale can follow and that its lines say."""
    return batter.model_copy(update={"lines": tuple(_weighed(line, facts) for line in batter.lines)})


def _weighed(line: BatterLine, facts: AdaptFacts) -> BatterLine:
    i = facts.ingredients.get(line.ingredient or "")
    if i is None or line.problem or line.grams <= 0:
        return line
    grams = _on_a_scale(i, line.grams)
    share = grams / line.grams
    text = amount_in_words(i, grams, _name(line, i, facts)) if not line.maybe else line.text
    return line.model_copy(update={"grams": grams, "low": line.low * share, "high": line.high * share, "text": text})


def _name(line: BatterLine, i: Ingredient, facts: AdaptFacts) -> str:
    """What a rewritten line calls its food: as the cook did, or by its full name where that would not be read back as sure as it was."""
    return i.name if i.is_certified or not line.settled else called(line, facts)


def _on_a_scale(i: Ingredient, grams: float) -> float:
    """Grams that a scale can follow; eggs whole where they come out whole."""
    unit = whole_step(i) if i.group == "egg" else 0.0
    near = round(grams / unit) * unit if unit else 0.0
    return near if near and abs(grams - near) <= WHOLE_EGG * unit else to_step(i, grams)


def amount_in_words(i: Ingredient, grams: float, name: str) -> str:
    """Grams and a name as a line; what is taken whole is counted where it comes out whole, and beaten and weighed where it does not.

    "2 eggs" would read as what an egg weighs in general: the grams always stand there.
    """
    unit = whole_step(i)
    if i.group == "egg" and unit and abs(grams / unit - round(grams / unit)) > 0.02:
        return f"{grams:g} g {name}, beaten, then weighed"
    return f"{grams:g} g {name}"
