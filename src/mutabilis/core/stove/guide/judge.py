"""How the bowl is judged, and what was found."""

from functools import cached_property

from ...batter.bowl import fill
from ...batter.flow import VOLUME_POWER
from ...batter.main_liquid import main_flour, main_liquid
from ..fold import in_bowl
from ..judging import Seen, advise, in_pot, offset_prior, right_spread, ways
from ..parts import Judging, Scoop
from .mix import Mixing

DOUBT_MIN = 5.0  # minutes since the wetting where nobody said when that was
WAIT = 0.5  # of the time in which nine tenths are drunk


class JudgingBowl(Mixing):
    """How the bowl is judged, and what was found."""

    @cached_property
    def judging(self) -> Judging:
        """How the bowl is judged, and what has been found."""
        known = self.facts.ingredients
        inside, plan = in_pot(in_bowl(self.plan, self.state, known), known), in_pot(self.planned.batter, known)
        bowl = fill(inside, self.facts)
        seen = self._seen()
        minutes = seen[-1].minutes if seen else self._minutes(self.now)
        can, why = ways(self.plan.form, self.plan_process.moments.judged)
        target = self._target_at(minutes)
        offset = offset_prior(self.facts, self.learned.get("piece_offset", {}))
        advice = advise(inside, plan, self.facts, seen, self.plan_process.rest_min, offset) if bowl.portions else None
        portion = self.planned.yields.portion_ml
        volumes = sorted({*self.facts.stove.judge.scoops_ml, portion})
        times = [(ml, (ml / self.facts.stove.judge.spread_ml) ** VOLUME_POWER) for ml in volumes]
        scoops = () if target is None else tuple(Scoop(ml=ml, plate_cm=target * x, piece_cm=target * x + offset.mean) for ml, x in times)
        main = next((x for x in self.lines if x.held > 0), None)
        targets = [(n, known[x.ingredient], x.target) for n, x in enumerate(self.lines)]
        pourable, flour = main_liquid(targets), main_flour(targets)
        liquid = main or (self.lines[pourable] if pourable is not None else None)
        return Judging(
            ways=can, why=why, target_cm=target, scoops=scoops, portion_ml=portion, held_g=main.held if main else 0.0,
            held_line=liquid.at if liquid else None, held_name=liquid.name if liquid else "", flour_line=None if flour is None else self.lines[flour].at, wait_min=max(1.0, WAIT * self.rest.earliest_min),
            held_words=self._measured(main.ingredient, main.held) if main else "",
            add_words=self._measured(advice.ingredient, advice.add_g) if advice and advice.ingredient else "", advice=advice,
        )  # fmt: skip

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
        """What a right bowl should measure after so many minutes [cm], what is held back still out."""
        planned = in_pot(self.planned.batter, self.facts.ingredients)
        out = next((x for x in self.lines if x.held > 0), None)
        if out is not None:
            lines = list(planned.lines)
            lines[out.at] = lines[out.at].model_copy(update={"grams": max(0.0, lines[out.at].grams - out.held)})
            planned = planned.model_copy(update={"lines": tuple(lines)})
        return right_spread(planned, self.facts, minutes, self.plan_process.rest_min)
