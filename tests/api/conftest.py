"""A client over a fresh demo book, and the batter that the Bench opens on."""

import shutil
import time

import pytest
from fastapi.testclient import TestClient

from mutabilis.api.app import create_app
from mutabilis.api.journal import freeze
from mutabilis.api.stove import closing
from mutabilis.api.stove_views import guided
from mutabilis.demo import fill
from mutabilis.demo.weeks import BATCHES, fill_weeks
from mutabilis.store.database import Database


@pytest.fixture(scope="session")
def demo(tmp_path_factory, facts):
    """A book that the demo filled once; each test has a copy."""
    app = create_app(facts, Database(tmp_path_factory.mktemp("demo") / "book.sqlite3"), minds_scale=False)
    here = app.state.context
    fill(here.book, facts, here.larder)
    here.database.close_all()
    return here.database.path


@pytest.fixture(scope="session")
def demo_weeks(tmp_path_factory, demo, facts):
    """The same with six weeks of batches in its log."""
    path = tmp_path_factory.mktemp("weeks") / "book.sqlite3"
    shutil.copyfile(demo, path)
    here = create_app(facts, Database(path), minds_scale=False).state.context
    made = fill_weeks(
        here.book, here.stove, here.facts, time.time(), lambda batch, _: ((), closing(guided(batch, here), here.journal.frozen(batch.id))), BATCHES,
        lambda batch: freeze(batch, here),
    )  # fmt: skip
    assert made == BATCHES and fill_weeks(here.book, here.stove, here.facts, 0, lambda b, _: ((), None)) == 0  # a log that is there is left
    here.database.close_all()
    return path


@pytest.fixture
def book(tmp_path, request):
    """The file of this test's book."""
    return shutil.copyfile(request.getfixturevalue("demo_weeks" if "weeks" in request.fixturenames else "demo"), tmp_path / "book.sqlite3")


@pytest.fixture
def client(book, facts):
    with TestClient(create_app(facts, Database(book), minds_scale=False), base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def weeks(client):
    """The client where six weeks of batches are in the log."""
    return client


@pytest.fixture
def ridge(client):
    return client.get("/api/start").json()["version"]
