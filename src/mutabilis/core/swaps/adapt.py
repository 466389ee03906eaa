"""Adapting a batter: choose ingredients and amounts so that every balance stays where it was."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..analysis import Analysis, analyse
from ..batter import Batter, BatterLine
from ..bowl import fill
from ..diets import DietRule, PackReading, judge, judge_ingredient
from ..facts import Facts
from ..ingredients import Ingredient, least
from ..ledgers.lift import EXCESSIVE
from ..ledgers.water import stress_from_spread
from ..quantities.units import Profile
from .candidates import Candidate, Field_, gather
from .model import Program, Solved, Targets
from .reasons import Change, cautions_for, changes_for, clash_reasons, lost_against
from .rounding import settle, to_step
from .transfers import Transfer, transfers, work
from .wishes import Wishes

TRACE = 0.12  # of what the base had
THINNER = {"thinner": 0.75, "same": 1.0, "thicker": 1.33}  # times the yield stress: about 0.7 cm either way


@dataclass(frozen=True, slots=True)
class Answer:
    """One adapted batter: its analysis, what changed and why, what to mind, how close it is (1 is the base itself)."""

    analysis: Analysis
    changes: tuple[Change, ...]
    transfers: tuple[Transfer, ...]
    cautions: tuple[str, ...]
    worse: tuple[str, ...]
    score: float


@dataclass(frozen=True, slots=True)
class Infeasible:
    """Why it cannot be done, and the nearest thing that can (None where there is none)."""

    reasons: tuple[str, ...]
    nearest: Answer | None


@dataclass(frozen=True, slots=True)
class Adaptation:
    """The base, the answers that differ in kind, best first, or why there is none."""

    base: Analysis
    answers: tuple[Answer, ...]
    infeasible: Infeasible | None


def adapt(
    base: Batter, wishes: Wishes, facts: Facts, profile: Profile, readings: Mapping[str, PackReading] | None = None
) -> Adaptation:
    """Adapt `base` to `wishes`. KeyError for a diet that is not known; everything else is an answer or a reason."""
    rules = wishes.rules(facts)
    servings = (
        wishes.servings or base.servings or max(fill(base, facts).batter_g / facts.forms[base.form].serving_g, 1e-6)
    )
    base = base.model_copy(update={"servings": servings})
    before = analyse(base, facts, profile, {**facts.diets, **rules}, readings)
    if before.batter_g <= 0:
        return Adaptation(before, (), Infeasible(("There is nothing in the bowl that could be read.",), None))
    if _fits_already(before, wishes, rules):
        same = Answer(before, (), (), tuple(cautions_for((), before, facts)), (), 1.0)
        return Adaptation(before, (same,), None)
    # A batter without flour has nothing to hold a balance against; it is still judged, never adapted by guess.
    if not fill(base, facts).total("flour") and not any(p.ingredient.is_drinker for p in fill(base, facts).portions):
        return Adaptation(before, (), Infeasible(("There is no flour in this batter to build on.",), None))
    job = _Job(base, before, wishes, rules, facts, profile, readings)
    eggless = any(i.group == "egg" for i, _, _ in job.gathered.removed)
    if before.setting.egg_dependent and eggless:
        reasons = (
            f"This batter lives from its eggs: {before.setting.egg_share:.0%} of its set is theirs, {before.setting.eggs_per_40g_flour:.1f} eggs to 40 g flour. No replacer carries that.",
            "Change the flour instead, to one that holds by itself, or keep the eggs.",
        )
        nearest = job.freed().best()
        return Adaptation(before, (), Infeasible(reasons, nearest))
    if job.gathered.clashes:
        return Adaptation(before, (), Infeasible(job.gathered.clashes, job.without_clashes().best()))
    answers, broken = job.run(wishes.alternatives)
    if answers:
        return Adaptation(before, tuple(answers), None)
    return Adaptation(before, (), Infeasible(clash_reasons(broken, rules, wishes), job.freed().best() or job.best()))


def _fits_already(before: Analysis, wishes: Wishes, rules: Mapping[str, DietRule]) -> bool:
    if any(before.diets[k].verdict != "fits" for k in rules):
        return False
    if wishes.caps or wishes.floors:
        from ..analysis import per_serving

        each = per_serving(before.nutrition, sum(line.grams for line in before.batter.lines) * 0, before.servings)
        if any(each.get(k, 0.0) > v for k, v in wishes.caps.items()) or any(
            each.get(k, 0.0) < v for k, v in wishes.floors.items()
        ):
            return False
    plain = (
        wishes.flow == "same"
        and (wishes.form in (None, before.batter.form))
        and not wishes.bans
        and not wishes.locked
        and not wishes.poured
    )
    return (
        plain
        and all(any(line.ingredient == p for line in before.batter.lines) for p in wishes.pins)
        and before.water.missing_g <= 0
    )


class _Job:
    """One adaptation under way: the candidates, the program, and the way from grams to an answer."""

    def __init__(
        self, base: Batter, before: Analysis, wishes: Wishes, rules: Mapping[str, DietRule], facts: Facts, profile: Profile,
        readings: Mapping[str, PackReading] | None, free_flours: bool = False,
    ) -> None:  # fmt: skip
        self.base, self.before, self.wishes, self.rules = base, before, wishes, rules
        self.facts, self.profile, self.readings = facts, profile, readings
        self.gathered: Field_ = gather(base, wishes, rules, facts, profile, readings, free_flours)
        self.targets = self._targets()
        self.program = Program(self.gathered.candidates, self.targets, facts.craft, profile)
        for pin in wishes.pins:
            self.program.pin(pin, 0.0)
        for id_, grams in {**wishes.locked, **wishes.poured}.items():
            self.program.pin(id_, grams)

    def freed(self) -> "_Job":
        """The same job with the flours free to go."""
        return _Job(
            self.base, self.before, self.wishes, self.rules, self.facts, self.profile, self.readings, free_flours=True
        )

    def without_clashes(self) -> "_Job":
        """The same job without the wishes that stand against a diet."""
        wishes = self.wishes.model_copy(update={"pins": (), "locked": {}, "poured": {}})
        return _Job(self.base, self.before, wishes, self.rules, self.facts, self.profile, self.readings)

    def _targets(self) -> Targets:
        a, bowl = self.before, fill(self.base, self.facts)
        form = self.facts.forms[self.wishes.form or self.base.form]
        middle = (form.spread_cm[0] + min(form.spread_cm[1], 17.5)) / 2
        own = a.water.yield_stress_pa
        changed = self.wishes.form not in (None, self.base.form)
        tau = stress_from_spread(middle) if own is None or changed else own
        gas = a.lift.co2_ml_per_100g + bowl.per_100g(a.lift.air_ml)
        if changed:
            gas = min(max(gas, form.lift[0] * 1.1), form.lift[1] * 0.9)
        return Targets(
            batter_g=a.batter_g, tau=max(0.05, tau * THINNER[self.wishes.flow]), theta=a.water.thickening, gas_per_100g=min(gas, EXCESSIVE),
            sour_per_100g=a.lift.excess_acid_meq_per_100g, fat=bowl.total("fat"), sweet=bowl.total("sweet"), salt_taste=bowl.total("salt_taste"),
            protein=bowl.total("protein"), flour=bowl.total("flour"), liquid=bowl.total("liquid"), set_per_100g=a.setting.per_100g, form=form,
            rest_min=bowl.rest_min, servings=a.servings, caps=self.wishes.all_caps(self.facts), floors={str(k): v for k, v in self.wishes.floors.items()},
        )  # fmt: skip

    # ---- solving

    def run(self, wanted: int) -> tuple[list[Answer], dict[str, float]]:
        """Up to `wanted` answers that differ in kind, and what stood in the way where there is none."""
        answers: list[Answer] = []
        cuts: list[tuple[frozenset[str], int]] = []
        broken: dict[str, float] = {}
        seen: set[tuple[str, ...]] = set()
        for _ in range(wanted + 2):
            if len(answers) == wanted:
                break
            solved = self._refined(cuts)
            if solved is None:
                break
            if solved.broken:
                broken = broken or solved.broken
                break
            main = self._main(solved)
            if main:
                cuts.append((main, len(main) - max(1, (len(main) + 1) // 2)))
            kind = tuple(
                sorted(self.gathered.candidates[i].ingredient.id for i, g in enumerate(solved.grams) if g > 0.05)
            )
            if kind not in seen:
                seen.add(kind)
                answer = self._answer(solved)
                if all(answer.analysis.diets[k].verdict == "fits" for k in self.rules) or self._unread():
                    answers.append(answer)
            if not main:
                break
        return answers, broken

    def best(self) -> Answer | None:
        """The single best there is, balanced or not; None where the program has no point at all."""
        solved = self._refined([])
        return self._answer(solved) if solved is not None and "flow" not in solved.broken else None

    def _unread(self) -> bool:
        return any(line.ingredient is None or line.problem for line in self.base.lines)

    def _refined(self, cuts: Sequence[tuple[frozenset[str], int]]) -> Solved | None:
        """Choose with binaries at the base's thickening, then settle the amounts at the answer's own, two or three rounds."""
        self.program.aim(self.targets.theta)
        solved = self.program.solve(cuts)
        if solved is None:
            return None
        # A trace of something that could go is not worth fetching from the shelf: it goes.
        traces = frozenset(
            i for i, (c, g) in enumerate(zip(self.gathered.candidates, solved.grams, strict=True))
            if not c.new and c.low == 0 and 0 < g < TRACE * c.base_g and c.ingredient.group not in ("leavener", "salt")
        )  # fmt: skip
        if traces:
            without = self.program.solve(only=solved.used, without=traces)
            if without is None or without.broken:
                traces = frozenset()
            else:
                solved = without
        theta = self.targets.theta
        for _ in range(4):
            now = self.program.theta(solved.grams)
            if abs(now - theta) < 0.002:
                break
            theta = now
            self.program.aim(theta)
            again = self.program.solve(only=solved.used, without=traces)
            if again is None:
                break
            solved = again
        return solved

    def _main(self, solved: Solved) -> frozenset[str]:
        """The choices that make an answer the kind it is: new flours, binders, drinks, sweeteners and fats."""
        telling = ("flour", "binder", "liquid", "cultured", "sweetener", "moist", "protein", "fat")
        new = [
            c
            for c in self.gathered.candidates
            if c.new and c.ingredient.id in solved.used and c.cost > 0 and c.role in telling
        ]
        return frozenset(c.ingredient.id for c in new)

    # ---- from grams to an answer

    def _answer(self, solved: Solved) -> Answer:
        amounts = [(c, g) for c, g in zip(self.gathered.candidates, solved.grams, strict=True)]
        rounded = self._rounded(amounts)
        lines = self._lines(rounded)
        batter = Batter(
            lines=tuple(lines),
            form=self.wishes.form or self.base.form,
            rest_min=self.base.rest_min,
            servings=self.before.servings,
        )
        after = analyse(batter, self.facts, self.profile, {**self.facts.diets, **self.rules}, self.readings)
        old = [
            (self.facts.ingredients[line.ingredient or ""], line.grams)
            for line in self.base.lines
            if line.counts and not line.problem
        ]
        new = [(c.ingredient, g) for c, g in rounded]
        moved = transfers(work(old, self.targets.rest_min), work(new, self.targets.rest_min))
        changes = changes_for(self.gathered, rounded, moved, self.facts)
        used = [c for c, g in rounded if c.new and g > 0]
        cautions = tuple(cautions_for(used, after, self.facts))
        score = 1.0 / (1.0 + max(0.0, solved.objective) / 10)
        return Answer(after, changes, moved, cautions, lost_against(self.before, after), round(score, 4))

    def _rounded(self, amounts: Sequence[tuple[Candidate, float]]) -> list[tuple[Candidate, float]]:
        fixed = {**self.wishes.locked, **self.wishes.poured}
        out: list[tuple[Candidate, float]] = []
        for c, g in amounts:
            untouched = not c.new and abs(g - c.base_g) < 0.005 * max(c.base_g, 0.2)
            value = (
                c.base_g
                if untouched
                else g
                if c.ingredient.id in fixed and abs(g - fixed[c.ingredient.id]) < 1e-6
                else to_step(c.ingredient, g)
            )
            if value > 0:
                out.append((c, value))
        liquids = [i for i, (c, _) in enumerate(out) if c.ingredient.water_g > 60 and c.ingredient.group in ("milk", "plant_milk", "water_juice", "cultured_dairy", "plant_cultured") and c.ingredient.id not in fixed]  # fmt: skip
        if liquids:
            main = max(
                liquids, key=lambda i: (out[i][0].ingredient.thickening < 0.2, out[i][1], out[i][0].ingredient.id)
            )
            portions = [(c.ingredient, g) for c, g in out]
            step = 1.0 if out[main][1] >= 60 else 0.5
            out[main] = (out[main][0], settle(portions, main, self.targets.tau, self.targets.rest_min, step))
        return out

    def _lines(self, rounded: Sequence[tuple[Candidate, float]]) -> list[BatterLine]:
        left = {c.ingredient.id: (c, g) for c, g in rounded}
        lines: list[BatterLine] = []
        for line in self.base.lines:
            if line.ingredient is None or line.problem:
                lines.append(line)
            elif line.where == "plate":
                lines.append(self._plate(line))
            elif line.ingredient in left:
                c, g = left.pop(line.ingredient)
                if abs(g - line.grams) > 1e-9:
                    line = self._line(c.ingredient, g).model_copy(update={"states": line.states})
                lines.append(line)
        order = {
            "flour": 0,
            "starch": 1,
            "protein": 1,
            "binder": 2,
            "liquid": 3,
            "cultured": 3,
            "acid": 4,
            "moist": 4,
            "egg": 4,
            "fat": 5,
            "sweetener": 6,
            "leavener": 7,
            "salt": 8,
        }
        new = sorted(left.values(), key=lambda pair: (order.get(pair[0].role, 9), -pair[1], pair[0].ingredient.id))
        lines.extend(self._line(c.ingredient, g) for c, g in new)
        return sorted(lines, key=lambda line: self._place(line))

    def _place(self, line: BatterLine) -> tuple[int, int]:
        if line.ingredient is None:
            return (9, 0)
        i = self.facts.ingredients[line.ingredient]
        groups = (
            ("wheat_flour", "gluten_free_flour", "grain_meal", "nut_seed_flour", "protein_powder"), ("starch",), ("binder",),
            ("milk", "plant_milk", "water_juice", "cultured_dairy", "plant_cultured"), ("acid",), ("egg", "egg_replacer", "fruit_puree", "vegetable"),
            ("fat_solid", "fat_oil", "nut_butter"), ("sugar", "liquid_sweetener", "polyol_sweetener", "intense_sweetener"), ("leavener",),
        )  # fmt: skip
        at = next((n for n, g in enumerate(groups) if i.group in g), 9)
        return (at + (20 if line.where == "plate" else 0), -int(line.grams * 10))

    def _line(self, i: Ingredient, grams: float) -> BatterLine:
        doubt = max(0.5, 0.01 * grams) if grams >= 3 else 0.05 * grams
        return BatterLine(
            text=f"{grams:g} g {i.name}",
            ingredient=i.id,
            grams=grams,
            low=max(0.0, grams - doubt),
            high=grams + doubt,
            confidence=least("high", i.confidence),
        )

    def _plate(self, line: BatterLine) -> BatterLine:
        """A plate line that the diets deny is changed for the nearest that fits, gram for gram."""
        assert line.ingredient is not None
        i = self.facts.ingredients[line.ingredient]
        if all(
            judge_ingredient(i, r, self.profile, (self.readings or {}).get(i.id))[0] == "fits"
            for r in self.rules.values()
        ):
            return line
        fitting = [
            (u.replaces[i.group] + u.oddness, u.ingredient)
            for u in self.facts.craft.usages
            if i.group in u.replaces
            and all(
                judge_ingredient(self.facts.ingredients[u.ingredient], r, self.profile)[0] == "fits"
                for r in self.rules.values()
            )
        ]
        if not fitting:
            return line
        other = self.facts.ingredients[min(fitting)[1]]
        return self._line(other, line.grams).model_copy(
            update={"where": "plate", "low": line.low, "high": line.high, "confidence": line.confidence}
        )


def plate_verdicts(
    batter: Batter,
    rules: Mapping[str, DietRule],
    facts: Facts,
    profile: Profile,
    readings: Mapping[str, PackReading] | None = None,
) -> dict[str, str]:
    """Verdicts on what meets the batter on the pan and the plate."""
    return {k: judge(batter.lines, r, facts, profile, None, readings, "plate").verdict for k, r in rules.items()}
