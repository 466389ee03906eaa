"""One adaptation under way: the candidates, the program, and the way from grams to an answer."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..analysis import Analysis, analyse
from ..batter import Batter, BatterLine
from ..bowl import Bowl, drinking_minutes, fill
from ..diets import PackReading, judge_ingredient
from ..facts import Facts
from ..ingredients import LIQUIDS, Confidence, Ingredient, least
from ..ledgers.lift import EXCESSIVE
from ..ledgers.water import stress_from_spread
from ..quantities.units import Profile
from .candidates import Candidate, Gathered, gather
from .model import Program, Solved, Targets
from .reasons import Change, cautions_for, changes_for, lost_against, sureness, technique_for
from .rounding import liquid_step, settle, to_kitchen, to_step
from .transfers import Transfer, transfers, work
from .wishes import Wishes

THINNER = {"thinner": 0.75, "same": 1.0, "thicker": 1.33}  # times the yield stress: about 0.7 cm either way
TRACE = 0.12  # of what the base had: less is not worth fetching from the shelf
DRY = ("flour", "starch", "binder", "protein", "leavener", "salt", "egg")
WET = ("sweetener", "fat", "moist", "acid", "cultured", "flavour")
# The choices that make an answer the kind it is.
TELLING = ("flour", "binder", "liquid", "cultured", "sweetener", "moist", "protein", "fat")
ORDER = (
    ("wheat_flour", "gluten_free_flour", "grain_meal", "nut_seed_flour", "protein_powder"), ("starch",), ("binder",), LIQUIDS, ("acid",),
    ("egg", "egg_replacer", "fruit_puree", "vegetable"), ("fat_solid", "fat_oil", "nut_butter"),
    ("sugar", "liquid_sweetener", "polyol_sweetener", "intense_sweetener"), ("leavener",),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Answer:
    """One adapted batter: its analysis, what changed and why, what to mind, what to do otherwise in the making, what is worse,
    how sure, and how close it is (1 is the base itself)."""

    analysis: Analysis
    changes: tuple[Change, ...]
    transfers: tuple[Transfer, ...]
    cautions: tuple[str, ...]
    technique: tuple[str, ...]
    worse: tuple[str, ...]
    confidence: Confidence
    score: float


class Job:
    """Candidates, targets and program for one base and one set of wishes."""

    def __init__(
        self, base: Batter, before: Analysis, wishes: Wishes, facts: Facts, profile: Profile,
        readings: Mapping[str, PackReading] | None, free_flours: bool = False,
    ) -> None:  # fmt: skip
        self.base, self.before, self.wishes, self.rules = base, before, wishes, wishes.rules(facts)
        self.facts, self.profile, self.readings = facts, profile, readings
        self.gathered: Gathered = gather(base, wishes, self.rules, facts, profile, readings, free_flours)
        self.targets = self._targets(fill(base, facts))
        self.program = Program(self.gathered.candidates, self.targets, facts.craft, profile)
        for pin in wishes.pins:
            self.program.pin(pin, 0.0)
        for id_, grams in {**wishes.locked, **wishes.poured}.items():
            self.program.pin(id_, grams)

    def again(self, wishes: Wishes | None = None, free_flours: bool = False) -> "Job":
        """The same job with other wishes, or with the flours free to go."""
        return Job(self.base, self.before, wishes or self.wishes, self.facts, self.profile, self.readings, free_flours)

    def _targets(self, bowl: Bowl) -> Targets:
        a, wishes = self.before, self.wishes
        form = self.facts.forms[wishes.form or self.base.form]
        changed = wishes.form not in (None, self.base.form)
        own = a.water.yield_stress_pa
        middle = (form.spread_cm[0] + min(form.spread_cm[1], 17.5)) / 2
        tau = stress_from_spread(middle) if own is None or changed else own
        gas = a.lift.co2_ml_per_100g + bowl.per_100g(a.lift.air_ml)
        if wishes.eggs == "separated" and any(p.foam_g for p in bowl.portions):
            gas = a.lift.co2_ml_per_100g  # the foam is lift of its own, on top
        if changed:
            gas = min(max(gas, form.lift[0] * 1.1), form.lift[1] * 0.9)
        if gas > EXCESSIVE:
            gas = 0.9 * form.lift[1]  # a fault of the base is not handed on
        return Targets(
            batter_g=a.batter_g, tau=max(0.05, tau * THINNER[wishes.flow]), theta=a.water.thickening, gas_per_100g=gas,
            sour_per_100g=a.lift.excess_acid_meq_per_100g, fat=bowl.total("fat"), sweet=bowl.total("sweet"), salt_taste=bowl.total("salt_taste"),
            protein=bowl.total("protein"), flour=bowl.total("flour"), liquid=bowl.total("liquid"), set_per_100g=a.setting.per_100g, form=form,
            rest_min=drinking_minutes(bowl.rest_min, bowl.pace, self.base.blender), servings=a.servings, caps=wishes.all_caps(self.facts),
            floors={str(k): v for k, v in wishes.floors.items()}, prices=dict(wishes.prices), max_cost=wishes.max_cost,
        )  # fmt: skip

    # ---- solving

    def run(self, wanted: int) -> tuple[list[Answer], dict[str, float]]:
        """Up to `wanted` answers that differ in kind, and what stood in the way where there is none."""
        answers: list[Answer] = []
        cuts: list[tuple[frozenset[str], int]] = []
        seen: set[tuple[str, ...]] = set()
        unread = any(line.ingredient is None or line.problem for line in self.base.lines)
        for _ in range(wanted + 2):
            if len(answers) == wanted:
                break
            solved = self._refined(cuts)
            if solved is None:
                break
            if solved.broken:
                return answers, solved.broken
            main = self._main(solved)
            if main:
                cuts.append((main, len(main) - max(1, (len(main) + 1) // 2)))
            kind = tuple(sorted(c.ingredient.id for c, g in zip(self.gathered.candidates, solved.grams, strict=True) if g > 0.05))
            if kind not in seen:
                seen.add(kind)
                answer = self._answer(solved)
                if unread or all(answer.analysis.diets[k].verdict == "fits" for k in self.rules):
                    answers.append(answer)
            if not main:
                break
        return answers, {}

    def best(self) -> Answer | None:
        """The single best there is, balanced or not; None where nothing flows as it should."""
        solved = self._refined([])
        return self._answer(solved) if solved is not None and "flow" not in solved.broken else None

    def can_be_done(self) -> bool:
        """Whether a quick look finds an answer."""
        solved = self.program.solve(quick=True)
        return solved is not None and not solved.broken and not self.gathered.clashes

    def _refined(self, cuts: Sequence[tuple[frozenset[str], int]]) -> Solved | None:
        """Choose with binaries at the base's thickening, then settle the amounts at the answer's own; where that breaks what
        must hold (a thick liquid went, say), choose again at the thickening that was found."""
        theta = self.targets.theta
        solved: Solved | None = None
        for _ in range(3):
            self.program.aim(theta)
            chosen = self.program.solve(cuts, quick=bool(cuts))
            if chosen is None:
                return solved
            solved, theta = self._settle_theta(self._without_traces(chosen), theta)
            if not solved.broken or chosen.broken:
                break
        return solved

    def _without_traces(self, solved: Solved) -> tuple[Solved, frozenset[int]]:
        """A trace of something that could go is not worth fetching from the shelf."""
        traces = frozenset(
            i for i, (c, g) in enumerate(zip(self.gathered.candidates, solved.grams, strict=True))
            if not c.new and c.low == 0 and 0 < g < TRACE * c.base_g and c.ingredient.group not in ("leavener", "salt")
        )  # fmt: skip
        if traces:
            bare = self.program.solve(only=solved.used, without=traces)
            if bare is not None and not bare.broken:
                return bare, traces
        return solved, frozenset()

    def _settle_theta(self, start: tuple[Solved, frozenset[int]], theta: float) -> tuple[Solved, float]:
        """A few linear programs, each at the thickening of the last; half steps, since a thick liquid swings it to and fro."""
        solved, traces = start
        for step in (1.0, 0.7, 0.7, 0.5, 0.5):
            now = self.program.theta(solved.grams)
            if abs(now - theta) < 0.002:
                break
            theta += step * (now - theta)
            self.program.aim(theta)
            closer = self.program.solve(only=solved.used, without=traces)
            if closer is None:
                break
            solved = closer
        return solved, theta

    def _main(self, solved: Solved) -> frozenset[str]:
        new = (c for c in self.gathered.candidates if c.new and c.ingredient.id in solved.used and c.cost > 0 and c.role in TELLING)
        return frozenset(c.ingredient.id for c in new)

    # ---- from grams to an answer

    def _answer(self, solved: Solved) -> Answer:
        rounded = self._in_spoons(solved) if self.wishes.steps == "kitchen" else self._on_a_scale(solved.grams)
        form = self.wishes.form or self.base.form
        batter = self.base.model_copy(update={"lines": tuple(self._lines(rounded)), "form": form, "servings": self.before.servings})
        after = analyse(batter, self.facts, self.profile, {**self.facts.diets, **self.rules}, self.readings)
        old = [(self.facts.ingredients[line.ingredient or ""], line.grams) for line in self.base.lines if line.counts and not line.problem]
        moved = transfers(work(old, self.targets.rest_min), work([(c.ingredient, g) for c, g in rounded], self.targets.rest_min))
        used = [c for c, g in rounded if c.new and g > 0]
        return Answer(
            analysis=after, changes=changes_for(self.gathered, rounded, moved, self.facts), transfers=moved,
            cautions=tuple(cautions_for(used, after, self.facts)), technique=technique_for(used, self.before, after, self.facts),
            worse=lost_against(self.before, after), confidence=sureness(after), score=round(1.0 / (1.0 + max(0.0, solved.objective) / 10), 4),
        )  # fmt: skip

    def _value(self, c: Candidate, g: float, rounding: Callable[[Ingredient, float], float]) -> float:
        """Grams of a candidate after rounding; what was not moved, or was locked or poured, stays to the letter."""
        held = {**self.wishes.locked, **self.wishes.poured}.get(c.ingredient.id)
        if g <= 1e-6:
            return 0.0
        if held is not None and abs(g - held) < 1e-6:
            return g
        return c.base_g if not c.new and abs(g - c.base_g) < 0.005 * max(c.base_g, 0.2) else rounding(c.ingredient, g)

    def _on_a_scale(self, grams: Sequence[float]) -> list[tuple[Candidate, float]]:
        return self._settled([(c, self._value(c, g, to_step)) for c, g in zip(self.gathered.candidates, grams, strict=True)], None)

    def _in_spoons(self, solved: Solved) -> list[tuple[Candidate, float]]:
        """Round what a spoon measures, a kind at a time, and solve again for what is left, so that rounding breaks nothing."""

        def spoon(i: Ingredient, g: float) -> float:
            return to_kitchen(i, g, self.profile)

        grams, fixed = list(solved.grams), dict[int, float]()
        for kinds in (DRY, WET):
            for at, c in enumerate(self.gathered.candidates):
                dry = c.role in DRY or c.ingredient.is_flour or c.ingredient.group in DRY
                if (kinds is DRY and dry) or c.role in kinds:
                    fixed[at] = self._value(c, grams[at], spoon)
            again = self.program.solve(only=solved.used, fixed=fixed)
            grams = again.grams if again is not None else grams
        return self._settled(
            [(c, fixed.get(at, self._value(c, grams[at], spoon))) for at, c in enumerate(self.gathered.candidates)],
            self.profile,
        )

    def _settled(self, rounded: Sequence[tuple[Candidate, float]], spoons: Profile | None) -> list[tuple[Candidate, float]]:
        """The main liquid takes up what rounding left of the flow."""
        out = [(c, g) for c, g in rounded if g > 0]
        fixed = {**self.wishes.locked, **self.wishes.poured}
        liquids = [
            i
            for i, (c, _) in enumerate(out)
            if c.ingredient.water_g > 60 and c.ingredient.group in LIQUIDS and c.ingredient.id not in fixed
        ]
        if liquids:
            main = max(liquids, key=lambda i: (out[i][0].ingredient.thickening < 0.2, out[i][1], out[i][0].ingredient.id))
            c, g = out[main]
            step = liquid_step(c.ingredient, spoons) if spoons else 1.0 if g >= 60 else 0.5
            out[main] = (
                c,
                settle([(x.ingredient, y) for x, y in out], main, self.targets.tau, self.targets.rest_min, step),
            )
        return [(c, g) for c, g in out if g > 0]

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
                same = abs(g - line.grams) <= 1e-9
                lines.append(line if same else self._line(c.ingredient, g).model_copy(update={"states": line.states}))
        lines.extend(self._line(c.ingredient, g) for c, g in sorted(left.values(), key=lambda pair: pair[0].ingredient.id))
        return sorted(lines, key=self._place)

    def _place(self, line: BatterLine) -> tuple[int, int]:
        if line.ingredient is None:
            return (15, 0)
        group = self.facts.ingredients[line.ingredient].group
        at = next((n for n, groups in enumerate(ORDER) if group in groups), len(ORDER))
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
        if self._fits(i):
            return line
        fitting = [
            (u.replaces[i.group] + u.oddness, u.ingredient)
            for u in self.facts.craft.usages
            if i.group in u.replaces and self._fits(self.facts.ingredients[u.ingredient])
        ]
        if not fitting:
            return line
        other = self.facts.ingredients[min(fitting)[1]]
        return self._line(other, line.grams).model_copy(
            update={"where": "plate", "low": line.low, "high": line.high, "confidence": line.confidence}
        )

    def _fits(self, i: Ingredient) -> bool:
        return all(judge_ingredient(i, r, self.profile, (self.readings or {}).get(i.id))[0] == "fits" for r in self.rules.values())
