"""What a batch needs next: everything that is shown of it at a moment, from its plan, its events and what the kitchen knows."""

from collections.abc import Mapping
from functools import cached_property

from ..analysis.analysis import Analysis, analyse
from ..balances.holdback import HoldBack, hold_back
from ..balances.water import water
from ..batter.batter import Batter
from ..batter.bowl import Bowl, fill
from ..batter.flow import VOLUME_POWER
from ..diets.packs import PackReading
from ..food.kitchen_measures import measure
from ..food.learning import Lesson, Normal
from ..heat.cooking import Cooking
from ..heat.largest_piece import LargestPiece, largest_piece
from ..heat.pieces import Piece, piece_on, reckon, surfaces_for
from ..heat.surfaces import Surface
from ..heat.tables import GreaseKey
from ..measures.profile import Profile
from ..recipe.method import Method, Step, method
from .batch import Batch
from .cooking import HeatAdvice, Run, after_test, pace_of, run, smoke
from .events import By, Moment
from .facts import StoveFacts
from .fold import LineState, Load, State, fold, in_bowl, will_be
from .judging import Seen, advise, offset_prior, ways
from .keeping import Keeping, keeping
from .parts import Judging, MixStep, MomentChoice, PanStep, Scoop, Timer, WeighLine
from .ready import Clockwork, Prep, count_back, preparations
from .resting import Window, lift_left, window

MIXING = ("dry", "wet", "together", "blend", "foam", "leaven")
GOOD_STARS = 4
DOUBT_MIN = 5.0  # minutes since the wetting where nobody said when that was
WAIT = 0.5  # of the time in which nine tenths are drunk
ORDER = ("soak", "dry", "wet", "foam", "late")


class Guide:
    """All of it, each part worked out when it is asked for."""

    def __init__(
        self, batch: Batch, now: float, facts: StoveFacts, profile: Profile, readings: Mapping[str, PackReading] | None = None,
        learned: Mapping[str, Mapping[str, Normal]] | None = None,
    ) -> None:  # fmt: skip
        self.batch, self.now, self.facts, self.profile, self.readings = batch, now, facts, profile, readings
        self.learned = learned or {}
        self.plan = batch.plan
        self.state: State = fold(batch.plan, batch.events, batch.first_at)
        self.with_scale = self.state.with_scale

    # ---- the batter

    @cached_property
    def planned(self) -> Analysis:
        """The plan, analysed for its guests."""
        return self._analysed(self.plan)

    @cached_property
    def to_be(self) -> Analysis:
        """The batter that it will be, analysed: what is in, and what is still to come."""
        return self._analysed(will_be(self.plan, self.state, self.facts.ingredients))

    @cached_property
    def bowl(self) -> Bowl:
        """The bowl that it will be."""
        return self.to_be.bowl

    def _analysed(self, batter: Batter) -> Analysis:
        rules = {k: self.facts.diets[k] for k in self.batch.diets if k in self.facts.diets}
        return analyse(batter, self.facts, self.profile, rules, self.readings)

    @cached_property
    def made(self) -> Method:
        """The method of the batter that it will be."""
        return method(self.to_be, self.facts, self.batch.order)

    @cached_property
    def plan_method(self) -> Method:
        """The method of the plan."""
        return method(self.planned, self.facts, self.batch.order)

    # ---- weighing

    @cached_property
    def held(self) -> HoldBack | None:
        """What to hold back of the liquid, by the way it is measured; the plan's, so that the mark does not move under the pour."""
        return hold_back(self.planned.bowl, "scale" if self.with_scale else "cups")

    @cached_property
    def lines(self) -> tuple[WeighLine, ...]:
        """What goes into the bowl, in the order in which it is weighed; the liquid that is held back comes last of the wet."""
        uses = {at: use for use, places in self.plan_method.uses for at in places}
        held = self._held_at()
        found = [self._weigh(x, uses.get(x.at, "dry"), held) for x in self.state.lines if self._weighed(x)]
        return tuple(sorted(found, key=lambda x: (ORDER.index(x.use) if x.use in ORDER else 9, x.at == held, x.at)))

    def _weighed(self, x: LineState) -> bool:
        where = self.plan.lines[x.at].where if x.at < len(self.plan.lines) else "batter"
        return bool(x.ingredient) and where == "batter" and (x.target > 0 or x.poured > 0 or x.none_left)

    def _held_at(self) -> int | None:
        if self.held is None or self.held.hold_g < 1:
            return None
        lines = [x for x in self.state.lines if x.ingredient == self.held.ingredient and x.target > 0]
        return max(lines, key=lambda x: x.target).at if lines else None

    def _weigh(self, x: LineState, use: str, held_at: int | None) -> WeighLine:
        i = self.facts.ingredients[x.ingredient]
        stove = self.facts.stove
        held = (
            min(self.held.hold_g, x.target)
            if self.held and x.at == held_at and not x.done
            else max(0.0, x.target - x.poured)
            if x.held
            else 0.0
        )
        missing = max(0.0, x.target - x.poured - held) if not x.settled else 0.0
        tolerance = stove.tolerance_g(i, x.target)
        by: By = "measure" if not self.with_scale else "spoon" if stove.by_spoon(missing or x.target) else "scale"
        over = x.poured - x.target if x.poured > x.target + tolerance and x.target > 0 and not self._chosen_over(x) else 0.0
        note = ""
        if i.group == "egg" and not x.settled:
            note = "Eggs as they are: the liquid follows what they weigh."
        elif held >= 1 and not x.settled:
            amount = self._measured(x.ingredient, held) if not self.with_scale else ""
            note = f"{amount or f'{held:.0f} g'} of it stay in the jug until the bowl is judged."
        words, measured = measure(i, missing or x.target, self.profile), missing
        if i.group == "egg" and i.unit_g and missing > 0:
            n = max(1, round(missing / i.unit_g))
            words, measured = f"{n} {i.unit_name}{'s' if n > 1 else ''}", n * i.unit_g
        return WeighLine(
            at=x.at, ingredient=x.ingredient, name=i.short, use=use, target=x.target, poured=x.poured, missing=missing, tolerance=tolerance, by=by, words=words, held=held, settled=x.settled, none_left=x.none_left, over=over, slot=x.slot,
            auto=i.group != "egg" and x.slot == x.pours, measured_g=measured, note=note,
        )  # fmt: skip

    def _chosen_over(self, x: LineState) -> bool:
        """An over-pour that the cook has answered: there is a step of that name, and no more went in since."""
        return f"over_{x.at}_{x.slot}" in self.state.steps or self.facts.ingredients[x.ingredient].group == "egg"

    @cached_property
    def current(self) -> WeighLine | None:
        """The line on the scale: the one that was tared for, else the first that is not settled; one that went over is answered first."""
        for x in self.lines:
            if x.over > 0:
                return x
        open_ = [x for x in self.lines if not x.settled]
        return next((x for x in open_ if x.at == self.state.taring), open_[0] if open_ else None)

    # ---- before

    @cached_property
    def clockwork(self) -> Clockwork | None:
        """The work counted back from the first piece, where one was named."""
        if self.state.first_at is None:
            return None
        seconds = self._first_reckoned() or 180.0
        lines = sum(1 for x in self.state.lines if self._weighed(x))
        return count_back(
            self.plan_method, self.state.first_at, self.now, self.planned.bowl.rest_min, seconds, lines, self.facts.stove.time
        )

    def _first_reckoned(self) -> float | None:
        surface = self.surfaces[0] if self.surfaces else None
        if surface is None:
            return None
        piece = piece_on(self.planned, surface, self._portion(surface, self.planned), "film", self.facts)
        return reckon(self.facts.heat, self.plan.form, round(piece.thickness_mm, 1), surface.usual_c, "film").done_s

    @cached_property
    def preparations(self) -> tuple[Prep, ...]:
        """What needs time first."""
        return preparations(self.made, self.state, self.clockwork)

    # ---- mixing

    @cached_property
    def mixing(self) -> tuple[MixStep, ...]:
        """The steps of the mixing, with the moment of the leavening as it was chosen."""
        steps = [s for s in self.made.steps if s.key in MIXING and s.key != "leaven"]
        keys = [s.key for s in steps]
        wetter = next((k for k in ("blend", "together") if k in keys), next((k for k in reversed(keys) if k in ("dry", "wet")), None))
        late = self.state.moment != "dry" and self.leavened
        found = [
            MixStep(step=s, done=self.state.steps.get(s.key), wets=s.key == wetter, leavens=s.key == wetter and not late and self.leavened)
            for s in steps
        ]
        if late:
            when = "when the surface is hot" if self.state.moment == "hot" else "as the very last thing, just before the first is poured"
            names = ", ".join(p.ingredient.short for p in self.bowl.portions if p.ingredient.group == "leavener")
            step = Step(
                key="leaven",
                title="Leaven",
                text=f"Stir in the {names}, loosened with a spoon of water, {when}.",
                why="Wetted late, it gives its gas in the pan.",
                minutes=None,
                lines=(),
            )
            found.append(MixStep(step=step, done=self.state.steps.get("leaven"), wets=False, leavens=True))
        return tuple(found)

    @property
    def leavened(self) -> bool:
        """Whether there is a leavening that can be wetted by itself."""
        return any(p.ingredient.group == "leavener" for p in self.bowl.portions)

    @cached_property
    def moments(self) -> tuple[MomentChoice, ...]:
        """The moments of the leavening, with the lift left at the first and the last piece; () where there is none."""
        if not self.leavened:
            return ()
        best = self.rest.best_min
        length = self.cooking_minutes or 15.0
        choices: tuple[tuple[Moment, str, float, str], ...] = (
            ("dry", "with the dry, and rested", best, "Simple; a part of the gas goes during the rest."),
            ("hot", "when the surface is hot", 2.0, "The rest costs no gas; it must be stirred in well, and toughens wheat a little."),
            ("last", "the last thing of all", 0.5, "All of the gas in the pan; there is no time left to lose."),
        )  # fmt: skip
        return tuple(
            MomentChoice(moment=m, label=label, first=lift_left(self.bowl, t), last=lift_left(self.bowl, t + length), why=why)
            for m, label, t, why in choices
        )

    # ---- judging

    @cached_property
    def judging(self) -> Judging:
        """How the bowl is judged, and what has been found."""
        inside = in_bowl(self.plan, self.state, self.facts.ingredients)
        bowl = fill(inside, self.facts)
        seen = self._seen()
        minutes = seen[-1].minutes if seen else self._minutes(self.now)
        can, why = ways(self.planned.bowl, self.planned.water.spread_cm)
        target = self._target_at(minutes)
        offset = offset_prior(self.facts, self.learned.get("piece_offset", {}))
        advice = advise(inside, self.planned.batter, self.facts, seen, self.planned.bowl.rest_min, offset) if bowl.portions else None
        portion = self.planned.yields.portion_ml
        volumes = sorted({*self.facts.stove.judge.scoops_ml, portion})
        times = [(ml, (ml / self.facts.stove.judge.spread_ml) ** VOLUME_POWER) for ml in volumes]
        scoops = () if target is None else tuple(Scoop(ml=ml, plate_cm=target * x, piece_cm=target * x + offset.mean) for ml, x in times)
        main = next((x for x in self.lines if x.held > 0), None)
        liquid = main or max(
            (x for x in self.lines if self.held and x.ingredient == self.held.ingredient), key=lambda x: x.target, default=None
        )
        flours = [
            x for x in self.lines if self.facts.ingredients[x.ingredient].is_flour and self.facts.ingredients[x.ingredient].is_drinker
        ]
        return Judging(
            ways=can, why=why, target_cm=target, scoops=scoops, portion_ml=portion, held_g=main.held if main else 0.0,
            held_line=liquid.at if liquid else None, held_name=liquid.name if liquid else "", flour_line=max(flours, key=lambda x: x.target).at if flours else None, wait_min=max(1.0, WAIT * self.rest.earliest_min),
            held_words=self._measured(main.ingredient, main.held) if main else "",
            add_words=self._measured(advice.ingredient, advice.add_g) if advice and advice.ingredient else "", advice=advice,
        )  # fmt: skip

    def _measured(self, ingredient: str, grams: float) -> str:
        """An amount in the kitchen's own measures; "" where it has none."""
        return measure(self.facts.ingredients[ingredient], grams, self.profile)

    def _seen(self) -> list[Seen]:
        now = {x.at: x.poured for x in self.state.lines}
        return [
            Seen(
                judged=j.event,
                minutes=self._minutes(j.event.at),
                since={at: g - (j.poured[at] if at < len(j.poured) else 0.0) for at, g in now.items()},
            )
            for j in self.state.judged
        ]

    def _minutes(self, at: float) -> float:
        """Minutes since the flour was wetted."""
        return DOUBT_MIN if self.state.wet_at is None else max(1.0, (at - self.state.wet_at) / 60)

    def _target_at(self, minutes: float) -> float | None:
        """The spread that the plan itself would have after so many minutes [cm]: what the bowl should measure now."""
        planned = self.planned.batter.model_copy(update={"rest_min": min(minutes, 5000.0)})
        return water(fill(planned, self.facts)).spread_cm

    # ---- resting

    @cached_property
    def rest(self) -> Window:
        """The window of the rest."""
        return window(self.bowl, self.plan.blender, self.facts.stove.time)

    @property
    def lift_now(self) -> float | None:
        """The share of the lift that is left now; None where its clock does not run."""
        since = self.state.leavened_at
        return None if since is None else lift_left(self.bowl, (self.now - since) / 60)

    # ---- cooking

    @cached_property
    def surfaces(self) -> tuple[Surface, ...]:
        """The kitchen's surfaces that this form is made on."""
        return surfaces_for(self.plan.form, self.facts.surfaces)

    def _portion(self, surface: Surface, a: Analysis) -> float:
        if surface.kind == "iron" and surface.iron_ml:
            return surface.iron_ml
        return a.yields.portion_ml

    @cached_property
    def largest(self) -> LargestPiece | None:
        """The largest piece, its heat and its time, on the surface that was chosen or the usual one."""
        return largest_piece(self.planned, self.facts, self.state.chosen.surface if self.state.chosen else None)

    def piece(self, surface: Surface, portion_ml: float | None = None, grease: GreaseKey = "film") -> Piece:
        """A piece on a surface, in the portion asked for or the usual one [mL]."""
        return piece_on(self.to_be, surface, portion_ml or self._portion(surface, self.to_be), grease, self.facts)

    @cached_property
    def tried(self) -> HeatAdvice | None:
        """What the last judged test piece says."""
        chosen = self.state.chosen
        test = next((x for x in reversed(self.state.loads) if x.colour and x.inside), None)
        if chosen is None or test is None or test.colour is None or test.inside is None:
            return None
        piece = self._chosen_piece
        assert piece is not None
        small = self.piece(chosen.surface, test.portion_ml or chosen.portion_ml, chosen.grease)
        turned = round(test.turned - test.on) if test.turned is not None and test.turned - test.on >= 5 else None
        return after_test(
            self.facts.heat, self.facts.stove, chosen.surface, self.plan.form, round(small.thickness_mm, 1), round(piece.thickness_mm, 1), test.celsius or chosen.celsius,
            chosen.grease, test.colour, test.inside, turned,
        )  # fmt: skip

    @cached_property
    def _chosen_piece(self) -> Piece | None:
        c = self.state.chosen
        return None if c is None else self.piece(c.surface, c.portion_ml, c.grease)

    @cached_property
    def reckoned(self) -> Cooking | None:
        """How a piece cooks at the heat as it is set, with what the test piece has taught; None before a surface is chosen."""
        c, piece = self.state.chosen, self._chosen_piece
        if c is None or piece is None:
            return None
        thick, factor = (self.tried.thickness_mm, round(self.tried.brown_factor, 3)) if self.tried else (piece.thickness_mm, 1.0)
        return reckon(self.facts.heat, self.plan.form, round(thick, 1), self.state.celsius or c.celsius, c.grease, factor)

    def _reckoned_for(self, load: Load) -> Cooking | None:
        """How the pieces of a load cook: a test piece is smaller, and thinner."""
        c = self.state.chosen
        if not load.test or c is None:
            return self.reckoned
        small = self.piece(c.surface, load.portion_ml or c.portion_ml, c.grease)
        return reckon(self.facts.heat, self.plan.form, round(small.thickness_mm, 1), self.state.celsius or c.celsius, c.grease)

    @cached_property
    def pace(self) -> Normal:
        """This surface's pace against the reckoning, as a logarithm."""
        c = self.state.chosen
        t = self.facts.stove.time
        known = self.learned.get("pace", {}).get(c.surface.id) if c else None
        prior = Normal(mean=known.mean, sd=max(known.sd, t.pace_least_sd)) if known else Normal(mean=0.0, sd=t.pace_sd)
        r = self.reckoned
        return pace_of(self.state, r.turn_s if r else None, r.done_s if r else None, prior, t)

    @cached_property
    def run(self) -> Run | None:
        """The cooking as it stands; None before a surface is chosen."""
        c, piece, r = self.state.chosen, self._chosen_piece, self.reckoned
        if c is None or piece is None or r is None:
            return None
        return run(self.state, self.to_be, piece, r, self.pace, c, self.now, self.facts.stove)

    @property
    def cooking_minutes(self) -> float | None:
        """From the first piece on the surface to the last off it [min], as far as it can be told."""
        surface = self.state.chosen.surface if self.state.chosen else self.surfaces[0] if self.surfaces else None
        if surface is None:
            return None
        piece = self.piece(surface)
        loads = max(1.0, self.to_be.yields.pieces / piece.per_load)
        each = (self._first_reckoned() or 180.0) + self.facts.stove.time.handling_s + surface.recover_s
        return loads * each / 60

    @cached_property
    def pan_steps(self) -> tuple[PanStep, ...]:
        """What is done in the pan itself: pieces of fruit on the wet side or in layers, sugar closed into the iron, something stirred in once
        half of them are made."""
        found = []
        late = [p.ingredient for p in self.bowl.portions if p.ingredient.group == "mix_in"]
        names = ", ".join(dict.fromkeys(i.short for i in late))
        if late:
            text = {
                "griddle": f"Lay {names} on the wet side, before the turn.", "crepe": f"Scatter {names} over it once it is turned.",
                "waffle": f"Scatter {names} over the batter before it is closed.", "tray": f"Half of the batter, then {names}, then the rest; swirl once.",
            }[self.plan.form]  # fmt: skip
            found.append(
                PanStep(key="pan_late", title="In the pan", text=text, half_way=False, due=True, done=self.state.steps.get("pan_late"))
            )
            if self.plan.form in ("griddle", "waffle"):
                found.append(
                    PanStep(
                        key="stir_half",
                        title="Half-way",
                        text=f"Stir up the batter: {names} sink, and the last pieces would have them all.",
                        half_way=True,
                        due=self.run is not None and self.run.laid >= self.run.planned / 2,
                        done=self.state.steps.get("stir_half"),
                    )
                )
        plate = [self.facts.ingredients.get(x.ingredient or "") for x in self.plan.lines if x.where == "plate"]
        plate_sugar = [i.short for i in plate if i is not None and i.group == "sugar"]
        if plate_sugar and self.plan.form == "waffle":
            text = f"Scatter the {plate_sugar[0]} on the iron before the batter: it is closed in and glazes. Wipe the plates after; burnt sugar is hot and sticks."
            found.append(
                PanStep(
                    key="pan_sugar", title="Sugar in the iron", text=text, half_way=False, due=True, done=self.state.steps.get("pan_sugar")
                )
            )
        return tuple(found)

    @property
    def smoke_words(self) -> str:
        """A warning where the grease smokes at this heat."""
        c = self.state.chosen
        return (
            smoke(self.facts.heat, c.fat, max(self.state.celsius or c.celsius, self.state.read_c or 0.0))
            if c and c.grease != "none"
            else ""
        )

    # ---- clocks

    @cached_property
    def timers(self) -> tuple[Timer, ...]:
        """Every clock that runs for this batch, the next due first."""
        if self.state.finished is not None:
            return ()
        found = [
            Timer(key=f"prep:{p.key}", label=p.title, started=p.started, due=p.due)
            for p in self.preparations
            if p.started and p.due and p.done is None
        ]
        s = self.state
        if s.rest_started is not None and s.rest_ended is None:
            since = s.wet_at if s.wet_at is not None else s.rest_started
            found.append(Timer(key="rest", label="Rest", started=s.rest_started, due=max(s.rest_started, since + 60 * self.rest.best_min)))
        if s.heat_on is not None and s.chosen is not None and not s.loads:
            found.append(
                Timer(
                    key="heat", label=f"{s.chosen.surface.name} hot", started=s.heat_on, due=s.heat_on + 60 * s.chosen.surface.heat_up_min
                )
            )
        now = self.run
        if now is not None:
            for load in s.loads:
                if load.off is not None:
                    continue
                what = "Test piece" if load.test else f"Load {load.n + 1}"
                own = self._reckoned_for(load)
                turn, done = now.turn_s, now.done_s
                if load.test and own is not None:
                    turn, done = (own.turn_s * now.pace if own.turn_s else None), (own.done_s or now.done_s) * now.pace
                if turn and load.turned is None:
                    found.append(Timer(key=f"turn:{load.n}", label=f"{what}: turn", started=load.on, due=load.on + turn))
                else:
                    begun = load.turned if load.turned is not None else load.on
                    rest = done - (turn or 0.0) if load.turned is not None else done
                    found.append(Timer(key=f"off:{load.n}", label=f"{what}: off", started=begun, due=begun + max(5.0, rest)))
            off = [load.off for load in s.loads if load.off is not None]
            if (
                off
                and len(off) == len(s.loads)
                and now.loads_left > 0
                and s.chosen is not None
                and self.now < max(off) + s.chosen.surface.recover_s
            ):
                found.append(
                    Timer(
                        key="recover",
                        label=f"{s.chosen.surface.name} back to its heat",
                        started=max(off),
                        due=max(off) + s.chosen.surface.recover_s,
                    )
                )
        return tuple(sorted(found, key=lambda t: t.due))

    # ---- after

    @property
    def good(self) -> bool:
        """Whether it came out good: by the cook's stars, else where nothing was seen to be wrong."""
        return self.state.stars >= GOOD_STARS if self.state.stars is not None else not self.state.faults

    @cached_property
    def keeping(self) -> tuple[Keeping, ...]:
        """What can be kept, and until when."""
        thirsty = any(p.ingredient.absorption_g_per_g >= 1.5 and p.grams > 0.1 * self.bowl.batter_g for p in self.bowl.portions)
        return keeping(self.to_be, thirsty, self.now, self.facts.stove, self.facts.safety)

    @cached_property
    def lessons(self) -> tuple[Lesson, ...]:
        """What this batch teaches: thirst, the offset of a test piece, the pace of its surface. Only what moved or grew surer by a twentieth."""
        found = []
        advice = self.judging.advice
        thirst = self.learned.get("absorption", {})
        for x in advice.learned if advice else ():
            offset = x.subject == "piece_offset"
            times = 1.0 if offset or x.subject not in thirst else thirst[x.subject].mean
            if x.after.sd < 0.95 * x.before.sd or abs(x.after.mean - x.before.mean) > 0.2 * x.before.sd:
                found.append(
                    Lesson(
                        kind="piece_offset" if offset else "absorption", subject=x.subject, batch=self.batch.id, before_mean=times * x.before.mean,
                        before_sd=times * x.before.sd, after_mean=times * x.after.mean, after_sd=times * x.after.sd,
                    )
                )  # fmt: skip
        c = self.state.chosen
        if c is not None and any(load.turned or load.off for load in self.state.loads):
            known = self.learned.get("pace", {}).get(c.surface.id)
            before = known or Normal(mean=0.0, sd=self.facts.stove.time.pace_sd)
            if self.pace.sd < before.sd or abs(self.pace.mean - before.mean) > 0.2 * before.sd:
                found.append(
                    Lesson(
                        kind="pace", subject=c.surface.id, batch=self.batch.id, before_mean=before.mean, before_sd=before.sd, after_mean=self.pace.mean,
                        after_sd=self.pace.sd,
                    )
                )  # fmt: skip
        return tuple(found)
