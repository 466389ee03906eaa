"""The Book and the Larder against a plain model of them: whatever is done in whatever order, closed and opened between, nothing is lost,
nothing comes twice, and what is searched for is found."""

import shutil
import tempfile
from pathlib import Path

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import Bundle, RuleBasedStateMachine, consumes, invariant, rule

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.book.versions import NewVersion, standing_of
from mutabilis.core.food.larder import Item
from mutabilis.formats import own_json
from mutabilis.formats.own_json import Everything
from mutabilis.store.book import Book, new_id
from mutabilis.store.database import Database
from mutabilis.store.larder import Larder
from tests.sizes import many

WORDS = ("rye", "moon", "Dôme", "waffle", "05:30", "o'clock", "crêpe", '"quoted"')
NAMES = st.lists(st.sampled_from(WORDS), min_size=1, max_size=3).map(" ".join)
LINES = st.lists(
    st.builds(
        BatterLine,
        text=st.sampled_from(["200 g flour", "2 eggs", "what is this", "30 g <b>butter</b>"]),
        ingredient=st.sampled_from(["all_purpose_flour", "egg", None, "butter"]),
        grams=st.floats(0, 900, allow_nan=False),
        where=st.sampled_from(["batter", "plate"]),
    ),
    max_size=4,
)
BATTERS = st.builds(
    Batter,
    lines=LINES.map(tuple),
    form=st.sampled_from(["griddle", "crepe", "waffle", "tray"]),
    servings=st.none() | st.floats(1, 40),
    cup_ml=st.none() | st.just(250.0),
    blender=st.booleans(),
)


class House(RuleBasedStateMachine):
    """`batters` is the model: name, put away or not, and the versions in order with their parent, note, batter and makings."""

    batters = Bundle("batters")
    versions = Bundle("versions")
    makings = Bundle("makings")

    def __init__(self):
        super().__init__()
        self.folder = Path(tempfile.mkdtemp())
        self.model, self.made, self.items = {}, {}, {}
        self._open()

    def _open(self):
        self.database = Database(self.folder / "book.sqlite3")
        self.book, self.larder = Book(self.database), Larder(self.database)

    def teardown(self):
        self.database.close()
        shutil.rmtree(self.folder)

    @rule()
    def close_and_open(self):
        self.database.close()
        self._open()

    @rule(target=batters, name=NAMES, batter=BATTERS, note=NAMES, twice=st.booleans())
    def add(self, name, batter, note, twice):
        new = NewVersion(batter=batter, id=new_id(), note=note)
        saved = self.book.add(name, new)
        if twice:  # the answer got lost, and it was sent again
            assert self.book.add(name, new) == saved
        self.model[saved.batter_id] = {"name": name, "away": False, "versions": [(saved.id, None, note, batter)]}
        return saved.batter_id

    @rule(target=versions, batter_id=batters, batter=BATTERS, note=NAMES, data=st.data())
    def save(self, batter_id, batter, note, data):
        parent = data.draw(st.sampled_from([v[0] for v in self.model[batter_id]["versions"]]))
        saved = self.book.save(batter_id, NewVersion(batter=batter, parent=parent, note=note))
        self.model[batter_id]["versions"].append((saved.id, parent, note, batter))
        return saved.id

    @rule(batter_id=batters, name=NAMES)
    def rename(self, batter_id, name):
        self.book.rename(batter_id, name)
        self.model[batter_id]["name"] = name

    @rule(batter_id=batters, away=st.booleans())
    def archive(self, batter_id, away):
        self.book.archive(batter_id, away)
        self.model[batter_id]["away"] = away

    @rule(target=makings, version_id=versions, good=st.booleans())
    def make(self, version_id, good):
        made = self.book.made(version_id, good, "")
        self.made[made.id] = (version_id, good)
        return made.id

    @rule(made=consumes(makings))
    def take_back(self, made):
        self.book.withdraw(made)
        del self.made[made]

    @rule(ingredient=st.sampled_from(["egg", "sugar"]), stock=st.none() | st.floats(0, 900), cup=st.none() | st.floats(6, 400))
    def stock(self, ingredient, stock, cup):
        item = Item(ingredient=ingredient, stock_g=stock, cup_g=cup, cup_ml=None if cup is None else 250)
        self.larder.put([item])
        self.items[ingredient] = item

    @rule()
    def move_to_another_house(self):
        """All of it goes out as our own JSON, and comes back the same in an empty Book."""
        sheets = tuple(self.book.sheet(b) for b in self.model)
        data = own_json.write(Everything(batters=sheets, items=tuple(self.larder.items().values())))
        with tempfile.TemporaryDirectory() as folder:
            other = Database(Path(folder) / "other.sqlite3")
            read = own_json.read(data)
            assert all(Book(other).keep(s) == (s.id, True) for s in read.batters) and read.items == tuple(self.larder.items().values())
            assert tuple(Book(other).sheet(b) for b in self.model) == sheets
            assert all(Book(other).keep(s) == (s.id, False) for s in read.batters)
            other.close()

    @invariant()
    def is_as_the_model_says(self):
        entries = {e.id: e for e in self.book.entries()}
        assert entries.keys() == self.model.keys()
        for id_, known in self.model.items():
            sheet = self.book.sheet(id_)
            assert (sheet.name, sheet.archived is not None) == (known["name"], known["away"])
            assert [(v.id, v.parent, v.note, v.batter) for v in sheet.versions] == known["versions"]
            assert [v.number for v in sheet.versions] == list(range(1, len(sheet.versions) + 1))
            for line in entries[id_].versions:
                assert line.standing == standing_of([good for version, good in self.made.values() if version == line.id])
        assert self.larder.items() == self.items
        for away in (False, True):
            here = {b for b, known in self.model.items() if known["away"] == away}
            assert set(self.book.newest(archived=away)) == here
            for word in ("rye", "dome", "clock"):
                in_it = {b for b in here if self._says(self.model[b], word)}
                assert set(self.book.newest(word, archived=away)) == in_it

    @staticmethod
    def _says(known, word):
        spelt = {"dome": "Dôme", "clock": "o'clock"}.get(word, word)
        return spelt in known["name"] or any(spelt in note for _, _, note, _ in known["versions"])


TestHouse = House.TestCase
TestHouse.settings = settings(max_examples=many(12), stateful_step_count=30)
