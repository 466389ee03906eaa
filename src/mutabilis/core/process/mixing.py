"""The mixing: what is weighed into which vessel, how the bowls come together, and what is folded in last."""

from ..analysis.analysis import Analysis
from ..balances.lift import FOAM_HALF_MIN
from ..batter.batter import Moment
from ..words import listed
from .facts import ProcessFacts
from .parts import HeldBack, Kind, Operation, Portion, VesselKey, Ways, operation
from .prepared import Prepared
from .shelf import Shelf
from .sorting import Item
from .words import cap, named, names, portion_names

TOGETHER = {"crepe": "Half of the wet into the dry, whisk smooth; then the rest, and strain if lumps stay."}


class Mixing:
    """The mixing of one batter, in the cook's way. `pot` is where it all ends up."""

    def __init__(
        self, a: Analysis, items: list[Item], shelf: Shelf, facts: ProcessFacts, ways: Ways, prepared: Prepared, moment: Moment, held: HeldBack | None
    ) -> None:  # fmt: skip
        self.a, self.shelf, self.facts, self.ways, self.prepared, self.moment, self.held = a, shelf, facts, ways, prepared, moment, held
        self.items = [x for x in items if x.inside]
        self.form = a.batter.form
        self.gluten = any(x.i.toughens for x in self.items)
        self.powders = [x for x in self.items if x.i.group == "leavener"]
        self.foam = [x for x in self.items if x.white > 0]
        self.pot: VesselKey = "blender" if ways.order == "blender" else "bowl"
        self.found: list[Operation] = []
        self.weighed: list[str] = []
        self.last = ""  # what has brought the batter as far as it is
        self.per_line = facts.process.minutes.weigh

    # ---- to the batter that is judged

    def batter(self, held: tuple[Portion, ...]) -> list[Operation]:
        """From the shelf to the batter, what is held back, whipped or wetted late still apart."""
        apart = [x for x in self.powders if self.moment != "dry"]
        whites = tuple(p for x in self.foam for p in self.shelf.white(x))
        sugar = self._sugar(whites)
        late = self.shelf.take_all(x for x in self.items if x.use == "late")
        spoons = self.shelf.take_all(apart)
        dry = self.shelf.take_all(x for x in self.items if x.use in ("dry", "soak"))
        main = self.held.line if self.held else -1  # poured last, so that its mark is the last that is watched
        wet = self.shelf.take_all(sorted((x for x in self.items if x.use in ("wet", "foam")), key=lambda x: x.at == main))
        together = {"two_bowls": self._two_bowls, "one_bowl": self._one_bowl, "blender": self._blend}[self.ways.order or "two_bowls"]
        if self.ways.order != "one_bowl":
            together(dry, wet)
        self._weigh("weigh_whites", "whites_bowl", "To whip", whites, after=("separate",))
        self._weigh("weigh_sugar", "saucer", "Sugar for the whites", sugar)
        self._weigh("weigh_leavening", "small_cup", "Leavening apart", spoons)
        self._weigh("weigh_late", "dish", "For later", late)
        self._weigh("weigh_held", "held_cup", "Held back", held)
        if self.ways.order == "one_bowl":
            together(dry, wet)
        return _weighed_first(self.found)

    def _two_bowls(self, dry: tuple[Portion, ...], wet: tuple[Portion, ...]) -> None:
        into_dry, into_wet = self.prepared.into_dry, self.prepared.into_wet
        scalded = ("scald",) if "scald" in into_dry else ()
        self._weigh("weigh_dry", "bowl", "Dry", dry, after=scalded)
        sides = []
        if dry or into_dry:
            what = self._made(dry, [x for x in into_dry if x != "scald"])
            if dry:
                sides.append(
                    self._do(
                        "dry", "whisk", "bowl", "Dry", f"Whisk {what} {'into the scalded paste' if scalded else 'in the large bowl'}.", self._dry_why(dry),
                        takes=("weigh_dry", *into_dry),
                    )
                )  # fmt: skip
            else:
                sides += into_dry
        self._weigh("weigh_wet", "jug", "Wet", wet, after=("sour", "separate", "warm_up"))
        if wet or into_wet:
            what = self._made(wet, into_wet)
            lonely = not wet and len(into_wet) == 1
            if lonely:
                sides += into_wet
            else:
                sides.append(
                    self._do(
                        "wet",
                        "whisk",
                        "jug",
                        "Wet",
                        f"Whisk {what} in a jug.{self._held_words()}",
                        self._held_why(),
                        takes=("weigh_wet", *into_wet),
                        after=("warm_up",),
                    )
                )
        if len(sides) > 1:
            takes = (*sides, *self.prepared.into_batter)
            kind: Kind = "whisk" if self.form == "crepe" or not self.gluten else "stir"
            self._do(
                "together",
                kind,
                "bowl",
                "Together",
                self._together() + self._drained(),
                self._together_why(),
                takes=takes,
                hands=2.0,
                done=self._smooth(),
            )
        elif sides:
            self.last = sides[0]
            self.pot = "bowl" if sides[0] in ("dry", *into_dry) else "jug" if sides[0] in ("wet", "sour") else self.pot
            if self.prepared.into_batter:
                self._do(
                    "together",
                    "stir",
                    self.pot,
                    "Together",
                    f"Stir it together.{self._drained()}",
                    "",
                    takes=(*sides, *self.prepared.into_batter),
                )

    def _one_bowl(self, dry: tuple[Portion, ...], wet: tuple[Portion, ...]) -> None:
        into_dry, into_wet = self.prepared.into_dry, self.prepared.into_wet
        self._weigh("weigh_wet", "bowl", "Wet first", wet, after=("scald", "sour", "separate", "warm_up"))
        scalded = tuple(x for x in into_dry if x == "scald")
        if wet or into_wet or scalded:
            self._do(
                "wet", "whisk", "bowl", "Wet first", f"Whisk {self._made(wet, [*scalded, *into_wet])} in the bowl.{self._held_words()}",
                "One bowl: what is wet goes in first, so that no dry corner is left.", takes=("weigh_wet", *scalded, *into_wet), after=("warm_up",),
            )  # fmt: skip
        self._weigh("weigh_dry", "bowl", "Dry on top", dry, after=("wet",))
        into_dry = [x for x in into_dry if x != "scald"]
        if dry or into_dry or self.prepared.into_batter:
            spread = (
                f", {names(x.i for x in self.items if x.i.group in ('leavener', 'salt') and x.at in {p.line for p in dry})} spread well"
                if any(self.shelf.items[p.line].i.group in ("leavener", "salt") for p in dry)
                else ""
            )
            what = self._made(dry, into_dry)
            self._do(
                "dry", "stir", "bowl", "Dry on top", (f"Scatter {what} over it{spread}; stir from the rim." if dry or into_dry else "Stir it.") + self._drained(), self._together_why(),
                takes=("weigh_dry", *into_dry, *self.prepared.into_batter), hands=2.0, done=self._smooth(), lines=tuple(p.line for p in dry),
            )  # fmt: skip

    def _blend(self, dry: tuple[Portion, ...], wet: tuple[Portion, ...]) -> None:
        self._weigh("weigh_wet", "blender", "Wet into the blender", wet, after=("sour", "separate", "warm_up"))
        self._weigh("weigh_dry", "blender", "Dry on top", dry)
        takes = ("weigh_wet", "weigh_dry", *self.prepared.into_dry, *self.prepared.into_wet)
        if wet or dry or self.prepared.into_wet:
            why = "It drinks in the blender what it would drink in ten minutes of rest." + (
                " Gluten toughens: stop as soon as it is smooth." if self.gluten else ""
            )
            made = [x for x in (*self.prepared.into_wet, *self.prepared.into_dry) if x != "sour"]
            more = f", then {self._made((), made)}" if made else ""
            self._do(
                "blend",
                "blend",
                "blender",
                "Blend",
                f"Wet into the blender first{more}{', then the dry on top' if dry else ''}: half a minute, scrape down, ten seconds more.{self._held_words()}",
                why,
                takes=takes,
                after=("warm_up",),
                hands=1.5,
                done="it is smooth",
            )
        if self.foam or self.prepared.into_batter or self.moment != "dry":
            self._do(
                "pour_out",
                "stir",
                "bowl",
                "Into the bowl",
                f"Pour it into the large bowl.{self._drained()}",
                "What comes now is worked in by hand.",
                takes=("blend", *self.prepared.into_batter),
            )
            self.pot = "bowl"

    # ---- after the bowl was judged

    def finish(self) -> list[Operation]:
        """What is wetted late, and what is folded in; nothing is stirred after the fold."""
        self.found = []
        if self.powders and self.moment != "dry":
            lasts = self.a.lift.latest_min
            when = "when the surface is hot" if self.moment == "hot" else "as the very last thing, just before the first is poured"
            why = (
                f"Wetted before the rest it would be half spent: 85 % lasts about {lasts:.0f} minutes."
                if lasts is not None
                else "Wetted late, it gives its gas in the pan."
            )
            self._do(
                "leaven",
                "stir",
                self.pot,
                "Leaven last",
                f"Stir in {names(x.i for x in self.powders)}, sifted over it, {when}.",
                why,
                takes=("weigh_leavening",),
                after=("rest", "heat"),
                done="no white speck is left",
            )
        if self.foam:
            w = self.facts.process.whites
            peaks = w.soft if self.ways.whites == "soft" else w.stiff
            sugar = "with the sugar set apart, " if any(o == "weigh_sugar" for o in self.weighed) else ""
            what = "the whites" if any(x.i.group == "egg" for x in self.foam) else names(x.i for x in self.foam)
            self._do(
                "whip",
                "whip",
                "whites_bowl",
                "Whip",
                f"Whip {what} {sugar}{peaks}.",
                "Whipped too early, it weeps.",
                takes=("weigh_whites", "weigh_sugar"),
                after=("judge", "rest"),
                hands=4.0,
                done=peaks,
            )
            parts = (
                "a third of it first, to loosen; then the rest, from below"
                if self.ways.whites == "soft"
                else "all at once, from below, turning the bowl"
            )
            self._do(
                "fold",
                "fold",
                self.pot,
                "Fold",
                f"Fold it in: {parts}.",
                f"Stirred, the air is lost; folded, it halves in about {FOAM_HALF_MIN:.0f} minutes. Cook at once.",
                takes=("whip",),
                hands=1.5,
                done="no streak of white is left",
                chain=True,
            )
        return self.found

    # ---- helpers

    def _sugar(self, whites: tuple[Portion, ...]) -> tuple[Portion, ...]:
        sugars = [x for x in self.items if x.i.group == "sugar" and x.use == "dry"]
        if not whites or self.ways.whites != "soft" or not sugars:
            return ()
        return self.shelf.take(max(sugars, key=lambda x: x.grams), self.facts.process.whites.sugar * sum(p.grams for p in whites))

    def _weigh(self, id_: str, vessel: VesselKey, title: str, portions: tuple[Portion, ...], after: tuple[str, ...] = ()) -> None:
        if not portions:
            return
        what = portion_names(portions, self.facts.ingredients)
        before = (*after, *self.weighed[-1:])
        text = (
            f"Keep {portions[0].grams:.0f} g of the {what} back in a cup until the bowl was judged."
            if id_ == "weigh_held"
            else f"Weigh {what} into the {self.facts.process.vessels[vessel]}."
        )
        self.found.append(
            Operation(
                id=id_, kind="weigh", vessel=vessel, title=title, text=text, portions=portions, lines=tuple(dict.fromkeys(p.line for p in portions)),
                hands_min=self.per_line * len(portions), after=tuple(dict.fromkeys(before)),
            )
        )  # fmt: skip
        self.weighed.append(id_)

    def _do(
        self, id_: str, kind: Kind, vessel: VesselKey, title: str, text: str, why: str, *, takes: tuple[str, ...] = (), after: tuple[str, ...] = (), hands: float = 1.0,
        done: str = "", chain: bool = False, lines: tuple[int, ...] | None = None,
    ) -> str:  # fmt: skip
        before = (*after, *((self.last,) if chain and self.last else ()))
        self.found.append(
            operation(id_, kind, vessel, title, text, why, takes=takes, after=before, hands=hands, done=done, lines=lines or ())
        )
        self.last = id_
        return id_

    def _made(self, portions: tuple[Portion, ...], made: list[str]) -> str:
        words = {
            "soak": "the soaked gel", "sour": "the soured milk", "melt": "the melted fat", "grind": "what was ground", "mash": "the mash", "proof": "the yeast",
            "scald": "the scalded paste", "starter": "the starter", "bag": "the dry mix",
        }  # fmt: skip
        return listed([*named(portions, self.facts.ingredients), *(words[m] for m in made)]) or "it"

    def _held_words(self) -> str:
        return f" Hold back {self.held.grams:.0f} g of the {self.held.name}." if self.held and not self.held_boils else ""

    def _held_why(self) -> str:
        return (
            f"{cap(self.differ())} differ: what is held back is added when the bowl asks for it."
            if self.held and not self.held_boils
            else ""
        )

    def differ(self) -> str:
        """What differs from day to day in this bowl."""
        there = (("flours", any(x.i.is_flour for x in self.items)), ("eggs", any(x.i.group == "egg" for x in self.items)))
        return listed([*(w for w, is_there in there if is_there), "cups"])

    @property
    def held_boils(self) -> bool:
        """Whether what is held back is of the liquid that scalds the meal, and so is told there."""
        return self.held is not None and "scald" in self.prepared.into_dry and "boiling" in self.shelf.items[self.held.line].states

    def _drained(self) -> str:
        return " Stir in what was drained." if self.prepared.into_batter else ""

    def _dry_why(self, dry: tuple[Portion, ...]) -> str:
        groups = {self.shelf.items[p.line].i.group for p in dry}
        small = [word for group, word in (("leavener", "leavening"), ("salt", "salt")) if group in groups]
        return f"{' and '.join(small).capitalize()} must be everywhere before anything is wet." if small else ""

    def _together(self) -> str:
        if self.form == "crepe":
            return TOGETHER["crepe"]
        return "Wet into dry, a dozen strokes; stop while lumps are left." if self.gluten else "Wet into dry, and whisk it smooth."

    def _smooth(self) -> str:
        return "no dry flour is left; small lumps stay" if self.gluten and self.form != "crepe" else "it is smooth"

    def _together_why(self) -> str:
        if self.form == "crepe":
            return "A thin batter shows every lump" + ("; the rest relaxes what the whisk has toughened." if self.gluten else ".")
        return "Gluten toughens with every stroke; lumps cook out." if self.gluten else "Lumps would stay dry in the middle."


def _weighed_first(found: list[Operation]) -> list[Operation]:
    """What is weighed before what is done with it, as far as nothing weighed waits for something done."""
    done = {o.id for o in found if o.kind != "weigh"}
    early: list[Operation] = []
    for o in found:
        if o.kind == "weigh" and not done & set(o.after):
            early.append(o)
        elif o.kind == "weigh":
            done.add(o.id)
    first = {o.id for o in early}
    return [*early, *(o for o in found if o.id not in first)]
