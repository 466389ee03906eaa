"""Prepared things: what is soaked, soured, melted, grated, mashed, ground, scalded or separated before anything is mixed."""

from ..batter.main_liquid import thins
from ..words import listed
from .facts import ProcessFacts
from .parts import Kind, Operation, Portion, VesselKey, operation
from .shelf import Shelf
from .sorting import Item, main_of
from .words import cap, names

PROOF_G, LEAST_PROOF_G = 50.0, 20.0  # of the liquid, to wake yeast in
ACID_WATERY, MILKY, CULTURED = 50.0, 60.0, 40.0  # g water in 100 g of what sours, of what is soured, of what is warmed


class Prepared:
    """The preparations of one batter. Each takes its portions off the shelf, from which what is held back is gone already."""

    def __init__(self, items: list[Item], shelf: Shelf, facts: ProcessFacts, wet: VesselKey, dry: VesselKey, blender: bool) -> None:
        self.items = [x for x in items if x.inside]
        self.shelf, self.facts, self.wet, self.dry, self.blender = shelf, facts, wet, dry, blender
        self.minutes = facts.process.minutes
        self.main = main_of(items)
        self.into_dry: list[str] = []  # what enters the bowl with the dry, with the wet, and at the end of the mixing
        self.into_wet: list[str] = []
        self.into_batter: list[str] = []

    def operations(self) -> list[Operation]:
        """All of them, the one that takes longest first."""
        found = [
            *self._warm(),
            *self._drain(),
            *self._starter(),
            *self._soak(),
            *self._proof(),
            *self._sour(),
            *self._melt(),
            *self._scald(),
            *self._separate(),
            *self._mash(),
            *self._grind(),
        ]
        return sorted(found, key=lambda o: -o.minutes)

    # ---- each kind

    def _warm(self) -> list[Operation]:
        cold = [x for x in self.items if x.i.group in ("egg", "cultured_dairy") and x.i.water_g > CULTURED]
        if not cold:
            return []
        what = " or ".join(w for w, group in (("egg", "egg"), ("culture", "cultured_dairy")) if any(x.i.group == group for x in cold))
        why = f"Cold {what} {'stiffens melted fat and ' if any(x.melts for x in self.items) else ''}slows the mixing."
        return [
            self._op(
                "warm_up",
                "warm",
                "counter",
                "Take out of the fridge",
                f"{cap(_names(cold))}: let stand at room temperature.",
                why,
                self.minutes.room,
                lines=cold,
            )
        ]

    def _drain(self) -> list[Operation]:
        grated = [x for x in self.items if x.i.group == "vegetable" and x.i.water_g > 85 and x.use == "wet"]
        if not grated:
            return []
        squeezed = all("squeezed" in x.i.id for x in grated)
        weights = "; ".join(self._kept(x) for x in grated)
        why = (
            "Its water would thin the batter."
            if squeezed
            else "What runs off is counted as in the batter: squeeze little, or hold back more liquid."
        )
        self.into_batter.append("drain")
        text = f"{cap(_names(grated))}: grate, salt lightly, let stand, and squeeze well. {cap(weights)}."
        return [
            self._op("drain", "drain", "sieve", "Grate and drain", text, why, self.minutes.drain, self.shelf.take_all(grated), hands=4.0)
        ]

    def _kept(self, x: Item) -> str:
        """What of it goes in; of what is squeezed also what was there raw, and what runs off."""
        into = f"{x.grams:.0f} g of {x.i.short} go into the batter"
        if x.i.id not in self.facts.units.drained:
            return into
        raw = x.grams / self.facts.units.drained[x.i.id][1]
        return f"of about {raw:.0f} g raw some {raw - x.grams:.0f} g run off, and {into}"

    def _soak(self) -> list[Operation]:
        soaked = [x for x in self.items if x.use == "soak"]
        if not soaked:
            return []
        if self.blender or self.main is None:
            return []  # a blender wets seeds as it turns
        t = self.facts.process.soak
        own = [y for x in soaked for y in self._beside(x) if thins(y.i)]  # "1 flax egg" brings its own water
        thirsty = [x for x in soaked if not any(thins(y.i) for y in self._beside(x))]
        want = sum(x.grams * (t.psyllium if x.i.id.startswith("psyllium") else t.times) for x in thirsty)
        drink = min(want, t.most * self.shelf.left[self.main.at])
        wetted = tuple({p.line: p for y in own for p in self.shelf.take(y)}.values())
        into = listed(
            [
                *(f"{p.grams:.0f} g of {self.shelf.items[p.line].i.short}" for p in wetted),
                *([f"{drink:.0f} g of the {self.main.i.short}"] if drink > 0 else []),
            ]
        )
        minutes = max(self.minutes.soak, max(x.i.absorption_minutes for x in soaked))
        self.into_wet.append("soak")
        return [
            self._op(
                "soak", "soak", "soaking_cup", "Soak", f"Stir {_names(soaked)} into {into}.", "It sets only once it has drunk; never eaten dry.",
                minutes, (*self.shelf.take_all(soaked), *wetted, *self.shelf.take(self.main, drink)), done="it has thickened to a gel",
            )
        ]  # fmt: skip

    def _starter(self) -> list[Operation]:
        groups: dict[str, list[Item]] = {}
        for x in self.items:
            if x.i.is_flour and any(thins(y.i) for y in self._beside(x)):
                groups[x.line.text] = [x, *self._beside(x)]
        if not groups:
            return []
        self.into_wet.append("starter")
        said = listed(
            f"{sum(x.grams for x in group):.0f} g of the starter (it holds {listed(f'{x.grams:.0f} g {x.i.short}' for x in group)})"
            for group in groups.values()
        )
        portions = self.shelf.take_all(x for group in groups.values() for x in group)
        text = f"Weigh {said} into the {self.facts.process.vessels[self.wet]}."
        return [
            self._op("starter", "weigh", self.wet, "Starter", text, "It is flour and water already, and counted as both.", 0.0, portions)
        ]

    def _beside(self, x: Item) -> list[Item]:
        """What else the cook's one line was read as: the water of a flax egg, or of a starter."""
        return [y for y in self.items if y.at != x.at and y.line.text == x.line.text and y.line.note == x.line.note]

    def _proof(self) -> list[Operation]:
        yeast = [x for x in self.items if x.yeast]
        if not yeast or self.main is None or self.shelf.left[self.main.at] < LEAST_PROOF_G:
            return []
        some = min(PROOF_G, self.shelf.left[self.main.at])
        self.into_wet.append("proof")
        text = f"Stir {_names(yeast)} into {some:.0f} g of the {self.main.i.short}, {self.facts.process.yeast.warmth}."
        return [
            self._op(
                "proof", "proof", "small_cup", "Wake the yeast", text, self.facts.process.yeast.why, self.minutes.proof,
                (*self.shelf.take_all(yeast), *self.shelf.take(self.main, some)), done="it foams",
            )
        ]  # fmt: skip

    def _sour(self) -> list[Operation]:
        acids = [x for x in self.items if x.i.group == "acid" and x.i.water_g > ACID_WATERY and x.use == "wet"]
        milks = [x for x in self.items if x.i.group in ("milk", "plant_milk") and x.i.water_g > MILKY and x.use == "wet"]
        if not acids or not milks:
            return []
        milk = max(milks, key=lambda x: x.grams)
        portions = (*self.shelf.take(milk), *self.shelf.take_all(acids))
        self.into_wet.append("sour")
        why = "The acid follows the dose at once; the wait only thickens it."
        return [
            self._op(
                "sour",
                "sour",
                self.wet,
                "Sour the milk",
                f"Stir {_names(acids)} into the {milk.i.short}.",
                why,
                self.minutes.sour,
                portions,
            )
        ]

    def _melt(self) -> list[Operation]:
        fats = [x for x in self.items if x.melts]
        if not fats:
            return []
        egg = any(x.i.group == "egg" for x in self.items)
        powder = any(x.i.group == "leavener" for x in self.items)
        why = (
            "Hot fat cooks the egg."
            if egg
            else "Hot fat sets starch in streaks" + (" and makes the powder work too soon." if powder else ".")
        )
        brown = any("browned" in x.states for x in fats)
        self.into_wet.append("melt")
        text = (
            f"Melt {_names(fats)}{', and let it brown and smell of nuts' if brown else ''}, and let it cool until it no longer feels hot."
        )
        return [
            self._op(
                "melt",
                "brown" if brown else "melt",
                "pan",
                "Melt and cool",
                text,
                why,
                self.minutes.cool,
                self.shelf.take_all(fats),
                hands=3.0,
                done="it no longer feels hot",
                cautions=("Hot fat burns: keep the handle turned in.",),
            )
        ]

    def _scald(self) -> list[Operation]:
        boiling = [x for x in self.items if "boiling" in x.states and x.use == "wet"]
        flours = [x for x in self.items if x.i.is_flour and x.use == "dry"]
        if not boiling or not flours or self.blender:
            return []
        self.into_dry.append("scald")
        kept = next((x for x in boiling if self.shelf.left[x.at] < x.grams), None)
        rest = f" Keep {kept.grams - self.shelf.left[kept.at]:.0f} g of it back." if kept else ""
        text = (
            f"Pour the boiling {_names(boiling)} over {_names(flours)}, stir it to a paste, and let it cool to the warmth of a hand.{rest}"
        )
        return [
            self._op(
                "scald",
                "scald",
                self.dry,
                "Scald",
                text,
                "Boiling liquid turns starch to paste, which binds and holds water.",
                self.minutes.cool,
                (*self.shelf.take_all(flours), *self.shelf.take_all(boiling)),
                hands=2.0,
                done="it is no warmer than a hand",
                cautions=("Boiling liquid scalds.",),
            )
        ]

    def _separate(self) -> list[Operation]:
        foam = [x for x in self.items if x.white > 0]
        if not foam:
            return []
        eggs = [x for x in foam if x.i.group == "egg"]
        whole = [x for x in foam if x.white < 1]
        text = (
            "Whites into the clean bowl, yolks with the wet: no yolk in the whites, no fat in the bowl."
            if whole
            else f"{cap(_names(foam))}: no yolk in the whites, no fat in the bowl."
            if eggs
            else f"Chill {_names(foam)}; no fat in the bowl."
        )
        return [
            self._op(
                "separate",
                "separate",
                "whites_bowl",
                "Separate" if whole else "Keep apart",
                text,
                "Fat keeps whites from foaming." if eggs else "Fat keeps it from foaming.",
                0.0,
                lines=foam,
                hands=3.0,
            )
        ]

    def _mash(self) -> list[Operation]:
        fruit = [x for x in self.items if "mashed" in x.states and x.i.group in ("fruit_puree", "vegetable") and x.use == "wet"]
        if not fruit or self.blender:
            return []
        self.into_wet.append("mash")
        return [
            self._op(
                "mash",
                "mash",
                "plate",
                "Mash",
                f"Mash {_names(fruit)} until no lump is left.",
                "Lumps scorch and leave wet spots.",
                0.0,
                self.shelf.take_all(fruit),
                hands=2.0,
            )
        ]

    def _grind(self) -> list[Operation]:
        ground = [x for x in self.items if "ground" in x.line.note and x.use == "dry"]
        if not ground or self.blender:
            return []
        self.into_dry.append("grind")
        return [
            self._op(
                "grind",
                "grind",
                "blender",
                "Grind",
                f"Grind {_names(ground)} as fine as flour.",
                "Coarse meal drinks late and weeps.",
                0.0,
                self.shelf.take_all(ground),
                hands=3.0,
            )
        ]

    def _op(
        self, id_: str, kind: Kind, vessel: VesselKey, title: str, text: str, why: str, wait: float, portions: tuple[Portion, ...] = (), *, hands: float = 1.0,
        lines: list[Item] | None = None, done: str = "", cautions: tuple[str, ...] = (),
    ) -> Operation:  # fmt: skip
        at = tuple(x.at for x in lines or ())
        return operation(
            id_, kind, vessel, title, text, why, portions=portions, lines=at, hands=hands, wait=wait, done=done, cautions=cautions
        )


def _names(items: list[Item]) -> str:
    return names(x.i for x in items)
