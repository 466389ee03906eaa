"""What can be made on a morning: the kitchen's surfaces with what they have met, and the batters of the Book with their adaptations."""

from collections.abc import Iterable
from datetime import date, timedelta

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import Analysis, analyse
from mutabilis.core.book.versions import Version
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.heat.largest_piece import largest_piece
from mutabilis.core.heat.pieces import surfaces_for
from mutabilis.core.heat.surfaces import Surface, per_load
from mutabilis.core.process.process import process
from mutabilis.core.service.moments import offer_of, station_of
from mutabilis.core.service.needs import suits
from mutabilis.core.service.wishes import Guest, Offer, Service, Station
from mutabilis.core.stove.events import SurfaceChosen
from mutabilis.data import load_service
from mutabilis.store.mornings import Morning

from .context import Context

MOST_VERSIONS = 16
REMEMBERED_DAYS = 60  # a surface is taken to have met what lay on it so long ago
DIET_FOR = {"gluten": "gluten_free", "wheat": "gluten_free", "egg": "egg_free", "milk": "dairy_free", "tree_nut": "nut_free", "peanut": "nut_free", "soy": "soy_free"}  # fmt: skip
SPLIT = ":for:"  # between a version and the diets that it is adapted to


class Kitchen:
    """The offers and stations of one kitchen, remembered as long as nothing in it changes."""

    def __init__(self, here: Context) -> None:
        self.here, self.rules = here, load_service()
        self._kept: dict[tuple[object, ...], tuple[Offer, Analysis] | None] = {}
        self._met: dict[tuple[object, ...], set[str]] = {}

    def service(self, morning: Morning) -> Service:
        """The wishes of a day, with everything that can be made for its guests."""
        guests = tuple(g.guest for g in morning.wished.guests)
        came = tuple(e.guest for e in morning.happened if e.kind == "came" and e.guest is not None)
        surfaces = [s for s in self.here.facts.surfaces if s.id not in morning.wished.cold]
        offers = self.offers((*guests, *came), morning.wished.versions)
        start = min([morning.wished.start, *(g.at for g in guests)])
        return Service(
            start=start, people=morning.wished.people, guests=guests, batters=offers, stations=tuple(self._station(s, offers, morning) for s in surfaces)
        )  # fmt: skip

    def offers(self, guests: Iterable[Guest], chosen: tuple[str, ...]) -> tuple[Offer, ...]:
        """The chosen versions (the newest of every batter where none is), and for whoever none of them suits, one adapted to their diets."""
        versions = self._versions(chosen)
        found = {o.id: o for v in versions if (o := self._offer(v, ())) is not None}
        for g in guests:
            if not g.minds or any(suits(g, o, self.rules) and g.form in (None, o.form) for o in found.values()):
                continue
            diets = tuple(sorted({d for n in g.minds if (d := self._diet(n.what)) is not None}))
            for v in versions:
                if g.form in (None, v.batter.form) and diets and (o := self._offer(v, diets)) is not None and suits(g, o, self.rules):
                    found[o.id] = o
                    break
        return tuple(found.values())

    def _diet(self, what: str) -> str | None:
        key = self.rules.name(what)
        return key if key in self.here.facts.diets else DIET_FOR.get(key)

    def _versions(self, chosen: tuple[str, ...]) -> tuple[Version, ...]:
        book = self.here.book
        if chosen:
            return tuple(v for v in book.versions(list(chosen)))
        entries = book.entries(book.newest()[:MOST_VERSIONS])
        return tuple(book.version(e.versions[-1].id) for e in entries if e.versions)

    def offer(self, version: Version) -> Offer | None:
        """A version as it stands; None where it cannot be made here."""
        return self._offer(version, ())

    def _offer(self, version: Version, diets: tuple[str, ...]) -> Offer | None:
        made = self._known(version, diets)
        return made[0] if made else None

    def _known(self, version: Version, diets: tuple[str, ...]) -> tuple[Offer, Analysis] | None:
        key = (version.id, diets, id(self.here.facts))
        if key not in self._kept:
            if len(self._kept) > 400:
                self._kept.clear()
            self._kept[key] = self._made(version, diets)
        return self._kept[key]

    def _made(self, version: Version, diets: tuple[str, ...]) -> tuple[Offer, Analysis] | None:
        """A version as an offer; None where it cannot be made here, or not for these diets. Only what fits after the packs are read."""
        here, facts = self.here, self.here.facts
        batter, name, id_ = version.batter, version.name, version.id
        try:
            if diets:
                answers = adapt(batter, Wishes(diets=diets), facts, here.profile(), here.readings).answers
                if not answers:
                    return None
                batter = answers[0].analysis.batter
                labels = [facts.diets[d].label for d in diets]
                name, id_ = f"{version.name}, {' and '.join(labels).lower()}", f"{version.id}{SPLIT}{'+'.join(diets)}"
            a = analyse(here.check(batter), facts, here.profile(), facts.diets, here.readings)
            if diets and any(a.plate.diets[d].verdict != "fits" for d in diets):
                return None
            surface = next(iter(surfaces_for(batter.form, facts.surfaces, batter.tray)), None)
            if surface is None or not any(line.counts for line in batter.lines):
                return None
            return offer_of(id_, name, a, process(a, facts), surface, facts, self.rules), a
        except (CannotBe, NotKnown, KeyError):
            return None

    def analysed(self, offer: str) -> Analysis | None:
        """The analysed batter behind an offer: for its places, and for shopping."""
        id_, _, diets = offer.partition(SPLIT)
        try:
            made = self._known(self.here.book.version(id_), tuple(diets.split("+")) if diets else ())
        except NotKnown:
            return None
        return made[1] if made else None

    def _station(self, surface: Surface, offers: Iterable[Offer], morning: Morning) -> Station:
        mine = [o for o in offers if o.form in surface.forms]
        places = min((self._places(surface, o) for o in mine), default=per_load(surface, surface.forms[0], 11.0))
        met = {*morning.wished.met.get(surface.id, ()), *self._has_met(surface, morning.day)}
        return station_of(surface, places, tuple(sorted(met)))

    def _places(self, surface: Surface, offer: Offer) -> int:
        a = self.analysed(offer.id)
        if surface.kind == "oven" and a is not None:
            return max(1, a.yields.whole)
        piece = largest_piece(a, self.here.facts, surface) if a is not None else None
        return per_load(surface, offer.form, piece.diameter_cm if piece else 11.0)

    def _has_met(self, surface: Surface, day: str) -> set[str]:
        """What an iron has met by the Stove's own batches: it is never clean of it. Plates are scraped and washed after a morning."""
        if surface.kind != "iron":
            return set()
        key = (surface.id, day, self.here.stove.revision)
        if key not in self._met:
            self._met = {key: self._looked_up(surface, day)}
        return self._met[key]

    def _looked_up(self, surface: Surface, day: str) -> set[str]:
        since = date.fromisoformat(day) - timedelta(days=REMEMBERED_DAYS)
        met: set[str] = set()
        for logged in self.here.stove.log(0, 200)[0]:
            batch = self.here.stove.batch(logged.id)
            if date.fromtimestamp(batch.started) < since:
                break
            if any(isinstance(e, SurfaceChosen) and e.surface.id == surface.id for e in batch.events):
                met |= set(analyse(batch.plan, self.here.facts, self.here.profile(), {}).contains)
        return met
