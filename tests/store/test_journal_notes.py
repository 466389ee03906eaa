"""What the journal keeps in the book: one reading of all of it says the same as each batch by itself, and nothing outlives its day."""

from itertools import count

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import NewVersion
from mutabilis.core.journal.predicted import Predicted
from mutabilis.core.journal.served import Served
from mutabilis.core.journal.summary import Packed, Summary
from mutabilis.core.reading.reading import read_lines
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.journal import Journal, Said
from mutabilis.store.photos import Photos
from mutabilis.store.stove import Closing, Stove
from tests.sizes import many


@pytest.fixture
def house(tmp_path, facts, profile):
    database = Database(tmp_path / "book.sqlite3")
    version = Book(database).add("Ridge", NewVersion(batter=Batter(lines=read_lines("200 g flour\n250 g milk", facts, profile))))
    stove = Stove(database)

    def made(n, cook="", finished=None, summary=None):
        batch = stove.start(f"{n:016x}", version.id, version.batter, (), "", None, "two_bowls", 1000.0 + n, cook=cook)
        over = Closing(finished=finished or 2000.0 + n, pieces=4, planned=4.0, stars=4, note="", good=True, lessons=(), summary=summary)
        stove.append(batch.id, (), 3000.0, lambda b, f: ((), over))
        return batch.id

    yield database, stove, Journal(database), made
    database.close_all()


RUNS = count(1)  # each example has batches and notes of its own
NOTES = st.lists(
    st.tuples(
        st.integers(0, 2),
        st.one_of(
            st.builds(dict, kind=st.just("faults"), faults=st.lists(st.sampled_from(["thick", "flat"]), max_size=2)),
            st.builds(
                dict, kind=st.just("answer"), question=st.sampled_from(["fizz", "cup"]), answer=st.sampled_from(["weakly", "at once"])
            ),
            st.builds(dict, kind=st.just("remark"), who=st.just("Ada"), text=st.sampled_from(["Lovely.", "Dry."])),
            st.builds(dict, kind=st.just("taken"), cause=st.just("water_low"), version=st.just("v")),
            st.builds(dict, kind=st.just("kept"), of=st.just("k1"), answer=st.just("used")),
            st.builds(dict, kind=st.just("unsaid"), of=st.integers(0, 12)),
        ),
    ),
    max_size=14,
)


@given(NOTES)
@settings(max_examples=many(25), suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_all_that_was_said_is_read_at_once_as_it_is_batch_by_batch(house, notes):
    _, _, journal, made = house
    run = next(RUNS)
    ids = [made(10 * run + n) for n in range(3)]
    for n, (at, said) in enumerate(notes):
        of = f"{run:06d}-{said['of']:04d}" if said["kind"] == "unsaid" else said.get("of", "")
        journal.say(ids[at], Said.model_validate({**said, "id": f"{run:06d}-{n:04d}", "of": of}))
    whole = {b: told for b, told in journal.told_of_all().items() if b in ids}
    assert set(whole) == {ids[at] for at, _ in notes} and all(whole[b] == journal.told(b) for b in whole)


def test_who_cooked_what_it_came_to_and_what_was_reckoned_are_read_for_the_whole_log(house):
    _, stove, journal, made = house
    summary = Summary(faults=("flat",), packs=(Packed(ingredient="egg", pack="lot 1"),), figures={"heat": -3.0})
    one, other = made(1, cook="  Wren ", summary=summary), made(2)
    journal.freeze(one, Predicted(program="1", pieces=4.0))
    journal.serve(one, [Served(load=0, at=1.0, name="Ada", needs="vegan", pieces=2)])
    log = {x.id: x for x in stove.log()[0]}
    assert (log[one].cook, log[one].summary) == ("Wren", summary) and (log[other].cook, log[other].summary) == ("", None)
    assert stove.batch(one).cook == "Wren" and journal.frozen_of_all() == {one: Predicted(program="1", pieces=4.0)}
    assert journal.served_of_all() == {one: journal.served(one)}
    stove.summarise(other, summary)
    assert {x.id: x for x in stove.log()[0]}[other].summary == summary
    stove.append(one, (), 4000.0, lambda b, f: ((), None))  # opened again: what it comes to is not known yet
    assert stove.log()[1] == 1 and stove.batch(one).finished is None


def test_photos_are_taken_away_with_the_batches_that_have_had_their_days(house):
    database, _, _, made = house
    photos = Photos(database)
    old, new = made(1, finished=100.0), made(2, finished=9000.0)
    for batch in (old, new):
        photos.put(batch, b"\xff\xd8" + batch.encode(), b"\xff\xd8small", 10, 10)
    assert photos.outlived(5000.0) == 1 == len(photos.of(new)) and photos.of(old) == () and photos.outlived(5000.0) == 0
    assert photos.weight()[0] == 2 and photos.let_go("9999") == 1 == photos.weight()[0]
