"""One adaptation under way: the candidates, the program, and the way from grams to an answer."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from ..analysis.analysis import Analysis, analyse
from ..batter.batter import Batter
from ..batter.main_liquid import main_liquid, thins
from ..diets.packs import PackReading
from ..food.ingredients import KINDS, LIQUIDS, Confidence, Ingredient, certified
from ..measures.profile import Profile
from .candidates import Candidate, Gathered, Gathering
from .course import STRAIGHT, Course
from .facts import AdaptFacts
from .linear import Solved
from .program import Program
from .reasons import Change, beside_changes, changes_for
from .rounding import liquid_step, settle, to_kitchen, to_step
from .saying import allergen_words, cautions_for, flavour_lost, lost_against, new_allergens, potassium_words, sureness, technique_for
from .targets import SAFE_FLOOR, Targets, targets
from .transfers import Transfer, transfers, work
from .wishes import DRINKS, Wishes
from .writing import Writer

TRACE = 0.25  # of what the base had: less is not worth fetching from the shelf
RESIDUE = 0.5  # of what the base had, where something new of the same kind is in the bowl
ROUNDED_CAP = 0.95  # of a ceiling a serving, aimed at where rounding to a scale or to spoons went over it
TRACE_LEAVENING = 0.1  # of what the base had: leavening is weighed finely, but not to a tenth of a gram for its own sake
UNSEEN = 0.03  # of a liquid: a mend does not move it by less
FLOUR_GROWS = 2.5  # times its own, where a batter that lived from its eggs is held by its flour
DRY = ("flour", "starch", "binder", "protein", "leavener", "salt", "egg")
WET = ("sweetener", "fat", "moist", "acid", "cultured", "flavour")


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """One adapted batter: its analysis, what changed and why, what to mind, what to do otherwise in the making, what is worse,
    how sure, and how close it is (1 is the base itself). `adds`: major allergens that the base did not have; `unchanged` says why nothing
    had to change."""

    analysis: Analysis
    changes: tuple[Change, ...]
    transfers: tuple[Transfer, ...]
    cautions: tuple[str, ...]
    technique: tuple[str, ...]
    worse: tuple[str, ...]
    confidence: Confidence
    score: float
    adds: tuple[str, ...] = ()
    unchanged: str = ""

    @property
    def reasons(self) -> tuple[str, ...]:
        """Why it is as it is, in words: of each change, or that nothing has to change."""
        return tuple(c.reason for c in self.changes) or (self.unchanged,)

    @property
    def kind(self) -> frozenset[str]:
        """What is in it: two answers of one kind differ in amounts alone."""
        return frozenset(line.ingredient for line in self.analysis.batter.lines if line.counts and line.ingredient)


class Job:
    """Candidates, targets and program for one base and one set of wishes."""

    def __init__(
        self, base: Batter, before: Analysis, wishes: Wishes, facts: AdaptFacts, profile: Profile,
        readings: Mapping[str, PackReading] | None, course: Course = STRAIGHT,
    ) -> None:  # fmt: skip
        self.base, self.before, self.wishes, self.rules, self.course = base, before, wishes, wishes.rules(facts), course
        self.facts, self.profile, self.readings = facts, profile, readings
        self.gathered: Gathered = Gathering(
            base=base, wishes=wishes, rules=self.rules, facts=facts, profile=profile, readings=readings, course=course
        ).gather()
        self.targets: Targets = targets(before, before.bowl, wishes, self.gathered, course, facts)
        self.led = before.setting.egg_dependent and any(i.group == "egg" for i, _, _ in self.gathered.removed) and before.lift.air_ml <= 0
        if self.led:
            self._by_flour()
        self.writer = Writer(
            base=base,
            rules=self.rules,
            facts=facts,
            profile=profile,
            readings=readings or {},
            whipped=frozenset(self.targets.air),
            resized=wishes.pieces is not None,
        )
        self.program = Program(self.gathered.candidates, self.targets, facts.craft, profile, course)
        for pin in wishes.pins:
            self.program.pin(pin, 0.0)
        for id_, grams in {**wishes.locked, **wishes.poured}.items():
            self.program.pin(id_, grams)

    def again(self, wishes: Wishes | None = None, **course: object) -> "Job":
        """The same job with other wishes, or on another course (see `Course`)."""
        changed = replace(self.course, **course)  # type: ignore[arg-type]
        return Job(self.base, self.before, wishes or self.wishes, self.facts, self.profile, self.readings, changed)

    def _by_flour(self) -> None:
        """What a batter that lived from its eggs comes nearest to: held by more flour, comfortably, and not by curd or gel."""
        t, led = self.targets, self.facts.craft.limits
        self.targets = replace(
            t, curd=False, set_floor=SAFE_FLOOR * t.form.set_comfort, gel=led["led_gel"] * t.gel, flour=led["led_flour"] * t.flour,
            body=led["led_body"] * t.body, rich=led["led_rich"] * t.rich,
        )  # fmt: skip
        had = {certified(i.id): g for i, g, _ in self.gathered.removed} | {
            c.ingredient.id: c.base_g for c in self.gathered.candidates if not c.new
        }
        kept = tuple(
            replace(c, high=max(c.high, FLOUR_GROWS * had[c.ingredient.id])) if c.ingredient.is_flour and c.ingredient.id in had else c
            for c in self.gathered.candidates
        )
        self.gathered = replace(self.gathered, candidates=kept)

    # ---- solving

    def run(self) -> tuple[Answer | None, dict[str, float]]:
        """The answer, or what stood in the way where there is none."""
        solved = self._refined()
        if solved is None:
            return None, {}
        if solved.broken:
            return None, solved.broken
        answer = self._answer(solved)
        a = answer.analysis
        # What was not understood cannot be swapped: it stays, and the answer is only as sure as its verdict says.
        unread = any(line.unresolved or line.unread or line.guessed for line in self.base.lines)
        if unread or all(a.diets[k].verdict == "fits" and a.plate.diets[k].verdict == "fits" for k in self.rules):
            return answer, {}
        if self.targets.caps and self.course.cap_share > ROUNDED_CAP:  # rounding went over a ceiling: aim further below it
            return self.again(cap_share=ROUNDED_CAP).run()
        return None, {}

    def best(self) -> Answer | None:
        """Closest match be made: only a ceiling or a floor a serving may be missed, or anything where the course is eased. None
        where the batter itself would not hold."""
        solved = self._refined()
        if solved is None:
            return None
        if not self.course.eased and any(k.partition(" ")[0] not in ("cap", "floor", "rubbery") for k in solved.broken):
            return None
        return self._answer(solved)

    def can_be_done(self) -> bool:
        """Whether a quick look finds an answer."""
        solved = self.program.solve(quick=True)
        return solved is not None and not solved.broken and not self.gathered.clashes

    def _refined(self) -> Solved | None:
        """Choose with binaries at the base's thickening, then settle the amounts at the answer's own; where that breaks what
        must hold (a thick liquid went, say), choose again at the thickening that was found."""
        theta = self.targets.theta
        solved: Solved | None = None
        held: tuple[Solved, frozenset[int]] | None = None
        for _ in range(3):
            self.program.aim(theta)
            chosen = self.program.solve(quick=self.course.eased)
            if chosen is None:
                return solved
            bare, traces = self._without_traces(chosen)
            held = held or (None if bare.broken else (bare, traces))
            solved, theta = self._settle_theta((bare, traces), theta)
            for _ in range(3):  # amounts moved with the thickening: look for residues again
                bare, more = self._without_traces(solved, traces)
                if more == traces:
                    break
                traces = more
                solved, theta = self._settle_theta((bare, traces), theta)
            solved = self._whole_things(solved, traces)
            if not solved.broken or chosen.broken:
                break
        if solved is None or not solved.broken or held is None:
            return solved
        # Where a thick liquid runs away from the settling (a curd does), what held at the base's own thickening stands: its main liquid closes
        # the flow.
        self.program.aim(self.targets.theta)
        return self._whole_things(*held)

    def _whole_things(self, solved: Solved, traces: frozenset[int]) -> Solved:
        """Eggs and fruit that were moved or are new are brought to whole ones, and the rest is settled again."""
        moved = [
            (at, c.whole_g, g) for at, (c, g) in enumerate(zip(self.gathered.candidates, solved.grams, strict=True))
            if c.whole_g and not c.held and g > 1 and abs(g - c.base_g) > 0.5
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

    # ---- from grams to an answer

    def _answer(self, solved: Solved) -> Answer:
        rounded = self._in_spoons(solved) if self.wishes.steps == "kitchen" else self._on_a_scale(solved.grams)
        batter = self.writer.batter(rounded, self.wishes.form or self.base.form, self.before.servings)
        after = analyse(batter, self.facts, self.profile, {**self.facts.diets, **self.rules}, self.readings)
        old = [(self.facts.ingredients[line.ingredient or ""], line.grams) for line in self.base.lines if line.counts]
        moved = transfers(work(old, self.targets.rest_min), work([(c.ingredient, g) for c, g in rounded], self.targets.rest_min))
        used = [c for c, g in rounded if c.new and g > 0]
        adds = new_allergens(self.before, after)
        said = (*allergen_words(adds, after, self.facts), *potassium_words(after), *cautions_for(after, self.rules))
        return Answer(
            analysis=after,
            changes=(
                *changes_for(self.gathered, rounded, moved, self.before, after, self.writer),
                *beside_changes(self.base, after.batter, self.writer.plate_swaps, self.facts),
            ),
            transfers=moved, cautions=tuple(dict.fromkeys(said)), technique=technique_for(used, self.before, after, self.facts),
            worse=(*lost_against(self.before, after, self.facts), *flavour_lost(self.before, after, self.writer)),
            confidence=sureness(after), score=round(1.0 / (1.0 + max(0.0, solved.objective) / 10), 4), adds=adds,
        )  # fmt: skip

    def _value(self, c: Candidate, g: float, rounding: Callable[[Ingredient, float], float]) -> float:
        """Grams of a candidate after rounding; what was not moved, or was locked or poured, stays to the letter."""
        held = {**self.wishes.locked, **self.wishes.poured}.get(c.ingredient.id)
        if g <= 1e-6:
            return 0.0
        if held is not None and abs(g - held) < 1e-6:
            return g
        if self.course.leaves_liquid and c.ingredient.group in LIQUIDS and abs(g - c.base_g) < UNSEEN * c.base_g:
            return c.base_g
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
        free = [(i, c.ingredient, g) for i, (c, g) in enumerate(out) if not c.held]
        if self.wishes.thin_with == "water":  # what is wanted beyond the drinks there are is water
            free = [x for x in free if x[1].group not in DRINKS and thins(x[1])] or free
        main = main_liquid(free)
        if main is not None and not self.course.leaves_liquid:
            c, g = out[main]
            step = liquid_step(c.ingredient, spoons) if spoons else 1.0 if g >= 60 else 0.5
            out[main] = (c, settle([(x.ingredient, y) for x, y in out], main, self.targets.tau, self.targets.rest_min, step))
        return [(c, g) for c, g in out if g > 0]
