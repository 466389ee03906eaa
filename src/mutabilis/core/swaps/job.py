"""One adaptation under way: the candidates, the program, and the way from grams to an answer."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from ..analysis import Analysis, analyse
from ..batter import Batter, BatterLine
from ..bowl import Bowl, drinking_minutes, fill
from ..diets import PackReading, beside_fits, judge_ingredient, per_100g
from ..facts import Facts
from ..ingredients import KINDS, LIQUIDS, Confidence, Ingredient, least
from ..ledgers.lift import EXCESSIVE, FOAM_HALF_MIN, FOAM_ML_PER_G, FOLDED
from ..ledgers.water import stress_from_spread
from ..quantities.units import Profile
from .candidates import Candidate, Gathered, available, gather
from .model import CARB_CAPS, DRINKS, FATS, Program, Solved, Targets
from .reasons import (
    Change,
    allergen_words,
    beside_changes,
    cautions_for,
    changes_for,
    flavour_lost,
    lost_against,
    new_allergens,
    potassium_words,
    sureness,
    technique_for,
)
from .rounding import liquid_step, settle, to_kitchen, to_step
from .transfers import Transfer, transfers, work
from .wishes import Wishes

THINNER = {"thinner": 0.75, "same": 1.0, "thicker": 1.33}  # times the yield stress: about 0.7 cm either way
TRACE = 0.25  # of what the base had: less is not worth fetching from the shelf
RESIDUE = 0.5  # of what the base had, where something new of the same kind is in the bowl
ROUNDED_CAP = 0.95  # of a ceiling a serving, aimed at where rounding to a scale or to spoons went over it
TRACE_LEAVENING = 0.1  # of what the base had: leavening is weighed finely, but not to a tenth of a gram for its own sake
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
    how sure, and how close it is (1 is the base itself). `adds`: major allergens that the base did not have."""

    analysis: Analysis
    changes: tuple[Change, ...]
    transfers: tuple[Transfer, ...]
    cautions: tuple[str, ...]
    technique: tuple[str, ...]
    worse: tuple[str, ...]
    confidence: Confidence
    score: float
    adds: tuple[str, ...] = ()


class Job:
    """Candidates, targets and program for one base and one set of wishes."""

    def __init__(
        self, base: Batter, before: Analysis, wishes: Wishes, facts: Facts, profile: Profile,
        readings: Mapping[str, PackReading] | None, free_flours: bool = False, soft_caps: bool = False,
        cap_share: float = 0.985,
    ) -> None:  # fmt: skip
        self.soft_caps, self.cap_share = soft_caps, cap_share
        self.base, self.before, self.wishes, self.rules = base, before, wishes, wishes.rules(facts)
        self.facts, self.profile, self.readings = facts, profile, readings
        self.gathered: Gathered = gather(base, wishes, self.rules, facts, profile, readings, free_flours)
        self.led = before.setting.egg_dependent and any(i.group == "egg" for i, _, _ in self.gathered.removed) and before.lift.air_ml <= 0
        self.targets = self._targets(fill(base, facts))
        if self.led:
            self._by_flour()
        self.program = Program(self.gathered.candidates, self.targets, facts.craft, profile)
        for pin in wishes.pins:
            self.program.pin(pin, 0.0)
        for id_, grams in {**wishes.locked, **wishes.poured}.items():
            self.program.pin(id_, grams)

    def again(self, wishes: Wishes | None = None, free_flours: bool = False, soft_caps: bool = False, cap_share: float = 0.985) -> "Job":
        """The same job with other wishes, with the flours free to go, or with ceilings a serving that yield or are aimed below."""
        return Job(
            self.base, self.before, wishes or self.wishes, self.facts, self.profile, self.readings, free_flours, soft_caps, cap_share
        )

    def _by_flour(self) -> None:
        """What a batter that lived from its eggs comes nearest to: held by more flour, comfortably, and not by curd or gel."""
        t = self.targets
        form = t.form.model_copy(update={"set_floor": t.form.set_comfort})
        led = self.facts.craft.limits
        self.targets = replace(
            t,
            curd=False,
            weak_stays=False,
            form=form,
            gel=led["led_gel"] * t.gel,
            flour=led["led_flour"] * t.flour,
            body=led["led_body"] * t.body,
            rich=led["led_rich"] * t.rich,
        )
        had = {f"{i.id}_gf": g for i, g, _ in self.gathered.removed} | {
            c.ingredient.id: c.base_g for c in self.gathered.candidates if not c.new
        }
        kept = tuple(
            replace(c, high=max(c.high, 2.5 * had[c.ingredient.id])) if c.ingredient.is_flour and c.ingredient.id in had else c
            for c in self.gathered.candidates
        )
        self.gathered = replace(self.gathered, candidates=kept)

    def _binders(self) -> int:
        """Two binders where gluten and egg go together, or where the flours do not hold at all; one else."""
        gone = [i for i, _, _ in self.gathered.removed]
        eggs = any(i.group == "egg" for i in gone)
        return 2 if eggs and (any(i.gluten_strength > 0 for i in gone) or self._short_flours()) else 1

    def _short_flours(self) -> bool:
        lines = (self.facts.ingredients[x.ingredient] for x in self.base.lines if x.ingredient and x.counts and not x.problem)
        return any(i.is_flour and i.egg_equivalents_per_g < 0 for i in lines)

    def _flour_leaves(self, wishes: Wishes) -> bool:
        """Whether flour the base held together by goes for another kind: then its own weakness is no measure any more."""
        if any(c in wishes.all_caps(self.facts) for c in CARB_CAPS):
            return True
        new = {c.ingredient.id for c in self.gathered.candidates if c.new}
        return any(i.is_flour and f"{i.id}_gf" not in new for i, _, _ in self.gathered.removed)

    def _air(self, bowl: Bowl) -> dict[str, float]:
        """Air kept by what is whipped [mL/g]: the base's own foam, and aquafaba where the whites that foamed have to go."""
        if self.wishes.eggs == "separated":
            return {}
        per = FOAM_ML_PER_G * FOLDED * 2 ** (-bowl.age_min / FOAM_HALF_MIN)
        air = {p.ingredient.id: per * p.foam_g / p.grams for p in bowl.portions if p.foam_g}
        if air and {i.id for i, _, _ in self.gathered.removed} & set(air):
            air["aquafaba"] = per
        return air

    def _targets(self, bowl: Bowl) -> Targets:
        a, wishes = self.before, self.wishes
        form = self.facts.forms[wishes.form or self.base.form]
        changed = wishes.form not in (None, self.base.form)
        air, limits = self._air(bowl), self.facts.craft.limits
        curd = any(p.ingredient.id in self.facts.craft.curds for p in bowl.portions)

        def own(key: str) -> float:
            """Of the batter itself: what is folded in brings its own fat and sweetness, and takes them along."""
            return float(sum(p.grams * getattr(p.per, key) for p in bowl.portions if p.ingredient.group != "mix_in"))

        tau_own = a.water.yield_stress_pa
        middle = (form.spread_cm[0] + min(form.spread_cm[1], 17.5)) / 2
        tau = stress_from_spread(middle) if tau_own is None or changed else tau_own
        gas = a.lift.co2_ml_per_100g + bowl.per_100g(a.lift.air_ml)
        if wishes.eggs == "separated" and any(p.foam_g for p in bowl.portions):
            gas = a.lift.co2_ml_per_100g  # the foam is lift of its own, on top
        if changed:
            gas = min(max(gas, form.lift[0] * 1.1), form.lift[1] * 0.9)
        if any(c in wishes.all_caps(self.facts) for c in CARB_CAPS):
            gas = min(gas, max(limits["gas_lean_least"] * form.lift[0], limits["gas_lean"] * gas))
        if gas > EXCESSIVE:
            gas = 0.9 * form.lift[1]  # a fault of the base is not handed on
        return Targets(
            batter_g=a.batter_g, tau=max(0.05, tau * THINNER[wishes.flow]), theta=a.water.thickening, gas_per_100g=gas,
            sour_per_100g=a.lift.excess_acid_meq_per_100g, fat=own("fat"), sweet=own("sweet"), salt_taste=own("salt_taste"),
            protein=own("protein"), flour=bowl.total("flour"), liquid=bowl.total("liquid"), set_per_100g=a.setting.per_100g, form=form,
            rest_min=drinking_minutes(bowl.rest_min, bowl.pace, self.base.blender), servings=a.servings, caps=wishes.all_caps(self.facts),
            floors={str(k): v for k, v in wishes.floors.items()}, prices=dict(wishes.prices), max_cost=wishes.max_cost,
            body=0.0 if changed else sum(p.grams * p.per.flour * p.per.flow_solid for p in bowl.portions),
            gel=bowl.total("thick"),
            drinks=sum(p.grams for p in bowl.portions if p.ingredient.group in DRINKS and p.ingredient.id not in self.facts.craft.curds), air=air,
            binders=self._binders(), weak_stays=not self._flour_leaves(wishes),
            rich=limits["rich"] if any(p.ingredient.group == "protein_powder" for p in bowl.portions) else limits["rich_curd"] if curd else 0.0,
            added=sum(p.grams * p.per.fat for p in bowl.portions if p.ingredient.group in FATS) + sum(g * i.fat_g / 100 for i, g, _ in self.gathered.removed if i.group not in FATS and not i.is_flour),
            dish=self.gathered.flat, gone_liquid=sum(g for i, g, _ in self.gathered.removed if i.group in LIQUIDS),
            cultured=0.0 if changed else sum(p.grams for p in bowl.portions if p.ingredient.group == "cultured_dairy" and p.ingredient.id not in self.facts.craft.curds),
            curd=curd,
            foam=sum(g * air.get(i, 0.0) for i, g in ((p.ingredient.id, p.grams) for p in bowl.portions)),
            soft_caps=self.soft_caps, cap_share=self.cap_share,
        )  # fmt: skip

    # ---- solving

    def run(self, wanted: int) -> tuple[list[Answer], dict[str, float]]:
        """Up to `wanted` answers that differ in kind, and what stood in the way where there is none."""
        answers: list[Answer] = []
        cuts: list[tuple[frozenset[str], int]] = []
        seen: set[tuple[str, ...]] = set()
        # What was not understood cannot be swapped: it stays, and the answer is only as sure as its verdict says.
        unread = any(line.unresolved or line.unread or line.guessed for line in self.base.lines)
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
                a = answer.analysis
                if unread or all(a.diets[k].verdict == "fits" and a.plate.diets[k].verdict == "fits" for k in self.rules):
                    answers.append(answer)
            if not main:
                break
        if not answers and self.targets.caps and self.cap_share > ROUNDED_CAP:  # rounding went over a ceiling: aim further below it
            return self.again(cap_share=ROUNDED_CAP).run(wanted)
        return answers, {}

    def best(self) -> Answer | None:
        """The nearest that can be made: only a ceiling or a floor a serving may be missed. None where the batter itself would not hold."""
        solved = self._refined([])
        if solved is None or any(k.partition(" ")[0] not in ("cap", "floor", "rubbery") for k in solved.broken):
            return None
        return self._answer(solved)

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
            bare, traces = self._without_traces(chosen)
            solved, theta = self._settle_theta((bare, traces), theta)
            for _ in range(3):  # amounts moved with the thickening: look for residues again
                bare, more = self._without_traces(solved, traces)
                if more == traces:
                    break
                traces = more
                solved, theta = self._settle_theta((bare, traces), theta)
            solved = self._whole_eggs(solved, traces)
            if not solved.broken or chosen.broken:
                break
        return solved

    def _whole_eggs(self, solved: Solved, traces: frozenset[int]) -> Solved:
        """Eggs that were moved are brought to whole ones, and the rest is settled again."""
        moved = [
            (at, c.ingredient.unit_g, g) for at, (c, g) in enumerate(zip(self.gathered.candidates, solved.grams, strict=True))
            if c.ingredient.group == "egg" and c.ingredient.unit_g and g > 1 and abs(g - c.base_g) > 0.5
        ]  # fmt: skip
        best: Solved | None = None
        for to in (math.ceil, math.floor) if moved else ():
            fixed = {at: max(1, to(g / unit)) * unit for at, unit, g in moved}
            whole = self.program.solve(only=solved.used, without=traces, fixed=fixed)
            if whole is None or not set(whole.broken) <= set(solved.broken):
                continue
            gone, more = self._without_traces(whole, traces, fixed)
            whole = gone if more != traces else whole
            if best is None or whole.objective < best.objective:
                best = whole
        return best or solved

    def _without_traces(
        self, solved: Solved, before: frozenset[int] = frozenset(), fixed: Mapping[int, float] | None = None
    ) -> tuple[Solved, frozenset[int]]:
        """A trace of something that could go is not worth fetching from the shelf; nor is a residue beside its own stand-in."""
        kinds = {KINDS.get(c.ingredient.group) for c in self.gathered.candidates if c.new and c.ingredient.id in solved.used} - {None}
        found: list[tuple[float, int]] = []
        for i, (c, g) in enumerate(zip(self.gathered.candidates, solved.grams, strict=True)):
            if c.new or c.low > 0 or i in before or not g > 0 or c.ingredient.group == "salt":
                continue
            leavening = c.ingredient.group == "leavener"
            share = TRACE_LEAVENING if leavening else RESIDUE if KINDS.get(c.ingredient.group) in kinds else TRACE
            if g < share * c.base_g:
                found.append((g / c.base_g, i))
        for traces in (frozenset(i for _, i in found), *(frozenset({i}) for _, i in sorted(found))):
            if traces:
                bare = self.program.solve(only=solved.used, without=before | traces, fixed=fixed)
                if bare is not None and set(bare.broken) <= set(solved.broken):
                    return bare, before | traces
        return solved, before

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
        self.plate_swaps: list[tuple[BatterLine, BatterLine | None]] = []
        batter = self.base.model_copy(update={"lines": tuple(self._lines(rounded)), "form": form, "servings": self.before.servings})
        batter, left_off = self._without_excess(batter)
        after = analyse(batter, self.facts, self.profile, {**self.facts.diets, **self.rules}, self.readings)
        old = [(self.facts.ingredients[line.ingredient or ""], line.grams) for line in self.base.lines if line.counts and not line.problem]
        moved = transfers(work(old, self.targets.rest_min), work([(c.ingredient, g) for c, g in rounded], self.targets.rest_min))
        used = [c for c, g in rounded if c.new and g > 0]
        adds = new_allergens(self.before, after)
        return Answer(
            analysis=after,
            changes=(
                *changes_for(self.gathered, rounded, moved, self.facts),
                *beside_changes(self.base, after.batter, (*self.plate_swaps, *((x, None) for x in left_off)), self.facts),
            ),
            transfers=moved,
            cautions=tuple(
                dict.fromkeys((*allergen_words(adds, after, self.facts), *potassium_words(after), *cautions_for(used, after, self.facts)))
            ),
            technique=technique_for(used, self.before, after, self.facts),
            worse=(*lost_against(self.before, after), *flavour_lost(self.before, after, self.facts)),
            confidence=sureness(after),
            score=round(1.0 / (1.0 + max(0.0, solved.objective) / 10), 4),
            adds=adds,
        )

    def _without_excess(self, batter: Batter) -> tuple[Batter, tuple[BatterLine, ...]]:
        """The batter without what of its plate would break a limit a serving, the richest in it first."""
        off: list[BatterLine] = []
        limits = [limit for rule in self.rules.values() for limit in rule.limits]
        while limits and any(line.where == "plate" for line in batter.lines):
            a = analyse(batter, self.facts, self.profile, self.rules, self.readings)
            over = next(
                (
                    x
                    for k in self.rules
                    for x in self.rules[k].limits
                    if a.diets[k].verdict == "fits" and a.plate.diets[k].verdict != "fits"
                ),
                None,
            )
            if over is None:
                break
            on_it = [line for line in batter.lines if line.where == "plate" and line.ingredient]
            most = max(on_it, key=lambda x: x.grams * per_100g(self.facts.ingredients[x.ingredient or ""], over.nutrient), default=None)
            if most is None:
                break
            off.append(most)
            batter = batter.model_copy(update={"lines": tuple(x for x in batter.lines if x is not most)})
        return batter, tuple(off)

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
        on_plate: set[str] = set()
        lines: list[BatterLine] = []
        for line in self.base.lines:
            if line.ingredient is None or line.problem:
                lines.append(line)
            elif line.where == "plate":
                others = {x.ingredient for x in self.base.lines if x.where == "plate" and x.ingredient}
                changed = self._plate(line, on_plate | others)
                if changed is None or changed.ingredient != line.ingredient:
                    self.plate_swaps.append((line, changed))
                if changed is not None and changed.ingredient is not None:
                    on_plate.add(changed.ingredient)
                    lines.append(changed)
            elif line.ingredient in left:
                c, g = left.pop(line.ingredient)
                same = abs(g - line.grams) <= 1e-9
                lines.append(
                    self._chosen(line) if same else self._line(c.ingredient, g).model_copy(update={"states": line.states, **_open_in(line)})
                )
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
            states=("whipped",) if i.id == "aquafaba" and i.id in self.targets.air else (),
        )

    def _chosen(self, line: BatterLine) -> BatterLine:
        """The line with its own food chosen, where what it leaves open would not fit: its words then name that food alone."""
        if (
            line.ingredient
            and line.maybe
            and not all(beside_fits(line, rule, self.facts, self.profile, self.readings or {}) for rule in self.rules.values())
        ):
            text = f"{round(line.grams, 1):g} g {self.facts.ingredients[line.ingredient].name}"
            return line.model_copy(update={"text": text, "maybe": (), "alternative": None, "alternative_text": None})
        return line

    def _plate(self, line: BatterLine, taken: set[str]) -> BatterLine | None:
        """A plate line that the diets deny is changed for the nearest of its kind that fits, gram for gram, each only once;
        None where nothing fits: it is left off."""
        assert line.ingredient is not None
        i = self.facts.ingredients[line.ingredient]
        line = self._chosen(line)
        beside = line.model_copy(update={"unread": (), "guessed": ""})
        if self._fits(i) and all(beside_fits(beside, rule, self.facts, self.profile, self.readings or {}) for rule in self.rules.values()):
            return line
        stand_ins = [self._available(x) for x in self.facts.craft.stand_ins(i.id)]
        if stand_ins or i.group == "mix_in":
            other = next((x for x in stand_ins if x is not None and x.id not in taken), None)
        else:
            near = sorted((u.replaces[i.group] + u.oddness, u.ingredient) for u in self.facts.craft.usages if i.group in u.replaces)
            other = next((x for _, id_ in near if (x := self._available(id_)) is not None), None)
        if other is None:
            return None
        update = {"where": "plate", "low": line.low, "high": line.high, "confidence": line.confidence}
        return self._line(other, line.grams).model_copy(update=update)

    def _available(self, id_: str) -> Ingredient | None:
        return available(id_, self.rules, self.facts, self.profile, self.readings)

    def _fits(self, i: Ingredient) -> bool:
        return all(judge_ingredient(i, r, self.profile, (self.readings or {}).get(i.id))[0] == "fits" for r in self.rules.values())


def _open_in(line: BatterLine) -> dict[str, object]:
    """What of a line stays open when its amount moves: words that nobody knows, and a spelling that was guessed."""
    return {"also": line.also, "heard": line.heard, "unread": line.unread, "guessed": line.guessed}
