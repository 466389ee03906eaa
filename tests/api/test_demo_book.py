"""The demo's house with its log: filled once, remembered, and a pack called back that can be followed."""

import io

from PIL import Image

from mutabilis.api.demo_book import fill_book
from mutabilis.api.log import sum_up
from mutabilis.demo.weeks import BATCHES


def test_the_house_remembers_photos_three_faults_and_a_recall(client, facts):
    here = client.app.state.context
    fill_book(here, facts, log=True)
    fill_book(here, facts, log=True)  # what is there already is left as it is
    log = client.get("/api/journal").json()
    assert log["total"] == BATCHES and log["cooks"] == ["Tam", "Wren"]
    assert {b["cook"] for b in client.get("/api/journal", params={"cook": "Tam"}).json()["batches"]} == {"Tam"}
    few = client.get("/api/journal", params={"limit": 7}).json()
    assert len(few["batches"]) == 7 and few["found"] == BATCHES
    entries = [client.get(f"/api/journal/batches/{b['id']}").json() for b in log["batches"]]
    photos = [p for e in entries for p in e["photos"]]
    assert len(photos) == 6 and sum(e["diagnosis"] is not None and bool(e["photos"]) for e in entries) == 3
    assert Image.open(io.BytesIO(client.get(f"/api/photos/{photos[0]['id']}.jpg").content)).size == (900, 675)
    taken = [e for e in entries if e["told"]["taken"]]
    assert len(taken) == 1 and taken[0]["diagnosis"]["causes"][0]["cause"] == taken[0]["told"]["taken"]["cause"]
    (recall,) = [r["text"] for e in entries for r in e["told"]["remarks"]]
    pack = recall.split("“")[1].split("”")[0]
    found = client.get("/api/journal/trace", params={"ingredient": "egg", "pack": pack}).json()
    assert len(found["certain"]) > 2 and any("Juna Pell" in u["whom"] for u in found["certain"])
    eaten = client.get("/api/journal/trace/back", params={"guest": "Juna Pell"}).json()
    assert {u["batch"] for u in found["certain"]} <= {e["batch"] for e in eaten if e["certain"]}


def test_photos_are_kept_as_long_as_the_kitchen_says(client, facts):
    here = client.app.state.context
    fill_book(here, facts, log=True)
    before = client.get("/api/copies").json()
    assert before["photos"] == 6 and 10_000 < before["photo_bytes"] < 3_000_000
    assert here.photos.outlived(here.clock.now() - 20 * 86_400) < 6 == here.photos.weight()[0]  # put back within a day
    assert here.photos.let_go("9999") > 0 and here.photos.weight()[0] < 6
    profile = client.get("/api/profile").json()
    assert profile["photo_days"] is None and client.put("/api/profile", json=profile | {"photo_days": 0}).status_code == 422


def test_a_log_that_is_older_than_its_summaries_is_summed_up_and_read_where_nothing_can_be_written(client, facts):
    here = client.app.state.context
    fill_book(here, facts, log=True)
    before = client.get("/api/journal").json()

    def forgotten():
        with here.database.write() as db:
            db.execute("DELETE FROM batch_summary")

    forgotten()
    sum_up(here, lambda: True)  # the server is just ending: nothing more is begun
    assert all(x.summary is None for x in here.stove.log(0, 100)[0])
    sum_up(here, lambda: False)
    assert all(x.summary is not None for x in here.stove.log(0, 100)[0])
    forgotten()
    here.database.damage = "a page is torn"
    assert client.get("/api/journal").json()["batches"] == before["batches"]
