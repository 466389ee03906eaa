"""A client over a fresh demo book, and the batter that the Bench opens on."""

import pytest
from fastapi.testclient import TestClient

from mutabilis.api.app import create_app
from mutabilis.demo import fill
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
