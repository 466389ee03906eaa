"""A client over a fresh demo book, and the batter that the Bench opens on."""

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


@pytest.fixture
def client(tmp_path, facts):
    app = create_app(facts, Database(tmp_path / "book.sqlite3"), minds_scale=False)
    fill(app.state.context.book, facts, app.state.context.larder)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def ridge(client):
    return client.get("/api/start").json()["version"]


@pytest.fixture
def weeks(client):
    """The same with six weeks of batches in its log."""
    here = client.app.state.context
    made = fill_weeks(
        here.book, here.stove, here.facts, time.time(), lambda batch, _: ((), closing(guided(batch, here), here.journal.frozen(batch.id))), BATCHES,
        lambda batch: freeze(batch, here),
    )  # fmt: skip
    assert made == BATCHES and fill_weeks(here.book, here.stove, here.facts, 0, lambda b, _: ((), None)) == 0  # a log that is there is left
    return client
