"""Packs over HTTP: named at the pour, followed to the batches, bags and guests, and back."""

import pytest

from mutabilis.core.journal.served import Served
from mutabilis.core.stove.events import Poured


def test_a_recall_over_six_weeks_finds_every_batch_of_its_lot(weeks):
    named = weeks.get("/api/journal/packs", params={"ingredient": "egg"}).json()
    assert len(named) > 3 and all("lot" in n for n in named)
    found = weeks.get("/api/journal/trace", params={"ingredient": "egg", "pack": named[1]}).json()
    here = weeks.app.state.context
    true = {
        x.id
        for x in here.stove.log(0, 100)[0]
        for e in here.stove.batch(x.id).events
        if e.kind == "poured" and e.pack == named[1]
    }  # fmt: skip
    assert {u["batch"] for u in found["certain"]} == true and found["possible"] and found["ruled_out"]
    assert not {u["batch"] for u in found["ruled_out"]} & true


def test_a_pack_is_named_by_the_larder_at_the_pour_and_traced(client, ridge):
    egg = next(x["ingredient"] for x in ridge["batter"]["lines"] if x["ingredient"] == "egg")
    assert client.put(f"/api/larder/{egg}", json={"ingredient": egg, "pack": "Hill eggs, lot 7"}).status_code == 204
    here = client.app.state.context
    batch = client.post("/api/stove/batches", json={"version": ridge["id"]}).json()["id"]
    at = next(n for n, x in enumerate(here.stove.batch(batch).plan.lines) if x.ingredient == egg)
    pour = Poured(id="0000000000000001", at=here.clock.now(), line=at, slot=0, grams=50.0, pack="made up by a screen")
    client.post(f"/api/stove/batches/{batch}/events", json={"events": [pour.model_dump(mode="json")]})
    kept = next(e for e in here.stove.batch(batch).events if e.kind == "poured")
    assert kept.pack == here.items[egg].pack == "Hill eggs, lot 7"
    client.post(
        f"/api/stove/batches/{batch}/events", json={"events": [{"id": "0000000000000002", "at": here.clock.now(), "kind": "finished"}]}
    )
    undone = [{"id": "0000000000000003", "at": here.clock.now(), "kind": "undone", "event": "0000000000000002"}]
    assert client.get("/api/journal", params={"fault": "thick"}).json()["batches"] == []
    seen = {"id": "0000000000000004", "at": here.clock.now(), "kind": "faults_seen", "faults": ["thick"]}
    over = {"id": "0000000000000005", "at": here.clock.now(), "kind": "finished"}
    client.post(f"/api/stove/batches/{batch}/events", json={"events": [*undone, seen, over]})
    assert [b["id"] for b in client.get("/api/journal", params={"fault": "thick"}).json()["batches"]] == [
        batch
    ]  # opened again, it ended otherwise
    found = client.get("/api/journal/trace", params={"ingredient": egg, "pack": str(here.items[egg].pack)}).json()
    assert [u["batch"] for u in found["certain"]] == [batch] and "safe" not in found["words"]


def test_a_pack_is_a_thing_with_a_lot_and_days(client, ridge):
    here = client.app.state.context
    powder = next(x["ingredient"] for x in ridge["batter"]["lines"] if "baking_powder" in (x["ingredient"] or ""))

    def use(**pack):
        return client.put(f"/api/larder/{powder}", json={"ingredient": powder, **pack}).status_code

    assert use(pack="Red tin", lot="A7", opened="2024-01-02", best_before="2025-02-30") == 422
    assert use(pack="Red tin", lot="A7", opened="2024-01-02", best_before="2025-02-28") == 204
    batch = client.post("/api/stove/batches", json={"version": ridge["id"]}).json()["id"]
    lines = here.stove.batch(batch).plan.lines
    at = next(n for n, x in enumerate(lines) if x.ingredient == powder)
    pour = {"id": "0000000000000001", "at": here.clock.now(), "kind": "poured", "line": at, "slot": 0, "grams": lines[at].grams}
    grease = here.facts.surfaces[0].model_dump(mode="json")
    chosen = {
        "id": "0000000000000002",
        "at": here.clock.now(),
        "kind": "surface_chosen",
        "surface": grease,
        "celsius": 190,
        "fat": powder,
        "portion_ml": 60,
        "per_load": 6,
    }
    client.post(f"/api/stove/batches/{batch}/events", json={"events": [pour, chosen]})
    assert {e.pack for e in here.stove.batch(batch).events if e.kind in ("poured", "surface_chosen")} == {"Red tin, lot A7"}
    why = client.post(f"/api/journal/batches/{batch}/why", json={"faults": ["flat"]}).json()
    assert why["diagnosis"]["causes"][0]["cause"] == "powder_old" and any(
        "open" in e["text"] for e in why["diagnosis"]["causes"][0]["evidence"]
    )
    assert use(pack="Blue tin") == 204  # another pack: the first is emptied, and is still known
    first, second = here.larder.pack_called(powder, "Red tin, lot A7"), here.larder.pack_called(powder, "Blue tin")
    assert first.emptied and first.opened == "2024-01-02" and second.emptied is None
    assert use(pack="Red tin", lot="A7", opened="2024-01-02") == 204 and here.larder.pack_called(powder, "Red tin, lot A7").emptied is None
    end = [{"id": "0000000000000003", "at": here.clock.now(), "kind": "finished"}]
    client.post(f"/api/stove/batches/{batch}/events", json={"events": end})
    assert client.get("/api/journal/packs", params={"ingredient": powder}).json() == ["Red tin, lot A7"]


def bag_of(client, version, id_):
    return client.post("/api/dry-mixes", json={"version": version, "id": id_, "times": 2}).json()["kept"]


def test_a_bag_of_dry_mix_carries_the_packs_it_was_made_of_into_its_batches(client, ridge):
    """The flour of the bag is of lot 1, whatever stands in the Larder when it is poured; what was bagged before anybody named a pack is possible."""
    here = client.app.state.context
    nameless = bag_of(client, ridge["id"], "00000000000000aa")
    flour = "plain_flour" if "plain_flour" in here.facts.ingredients else next(x["ingredient"] for x in ridge["batter"]["lines"])
    flour = next(x["ingredient"] for x in ridge["batter"]["lines"] if here.facts.ingredients[x["ingredient"]].is_flour)
    client.put(f"/api/larder/{flour}", json={"ingredient": flour, "pack": "Mill flour", "lot": "1"})
    bag = bag_of(client, ridge["id"], "00000000000000bb")
    client.put(f"/api/larder/{flour}", json={"ingredient": flour, "pack": "Mill flour", "lot": "2"})
    batch = client.post(
        "/api/stove/batches", json={"version": ridge["id"], "mix": {"id": bag["id"], "grams": bag["bag"]["batch_g"]}}
    ).json()["id"]
    step = {"id": "0000000000000001", "at": here.clock.now(), "kind": "step_done", "key": "bag"}
    over = {"id": "0000000000000002", "at": here.clock.now(), "kind": "finished"}
    client.post(f"/api/stove/batches/{batch}/events", json={"events": [step, over]})
    assert client.get("/api/journal/packs", params={"ingredient": flour}).json() == ["Mill flour, lot 1"]
    first = client.get("/api/journal/trace", params={"ingredient": flour, "pack": "mill flour, LOT 1"}).json()
    assert [u["batch"] for u in first["certain"]] == [batch] and [(b["bag"], b["certain"]) for b in first["bags"]] == [
        (bag["id"], True),
        (nameless["id"], False),
    ]
    second = client.get("/api/journal/trace", params={"ingredient": flour, "pack": "Mill flour, lot 2"}).json()
    assert (
        second["certain"] == []
        and [u["batch"] for u in second["ruled_out"]] == [batch]
        and [b["bag"] for b in second["bags"]] == [nameless["id"]]
    )


@pytest.mark.parametrize(
    "asked, status", [({}, 422), ({"guest": "  "}, 422), ({"on": "2030-02-30"}, 422), ({"guest": "Ada", "on": "2030-02-28"}, 200)]
)
def test_a_trace_back_wants_a_guest_or_a_day(weeks, asked, status):
    assert weeks.get("/api/journal/trace/back", params=asked).status_code == status


def test_a_trace_of_no_pack_rules_nothing_out(weeks):
    assert weeks.get("/api/journal/trace", params={"ingredient": "egg", "pack": " ,. "}).status_code == 422
    found = weeks.get("/api/journal/trace", params={"ingredient": "egg", "pack": "lot nobody wrote"}).json()
    assert found["certain"] == [] and found["words"].startswith("Nobody named this pack")


def test_a_guest_who_fell_ill_is_followed_back_to_the_packs(weeks):
    here = weeks.app.state.context
    mine, other, nobody = weeks.get("/api/journal").json()["batches"][:3]
    here.journal.serve(mine["id"], [Served(load=0, at=mine["at"], name="Ada Finch", pieces=2)])
    here.journal.serve(other["id"], [Served(load=0, at=other["at"], name="Tam", pieces=2)])
    found = weeks.get("/api/journal/trace/back", params={"guest": "ada  finch"}).json()
    by = {e["batch"]: e for e in found}
    assert found[0]["batch"] == mine["id"] and found[0]["certain"] and any("lot" in p["pack"] for p in found[0]["packs"])
    assert other["id"] not in by and by[nobody["id"]]["certain"] is False
    on_the_day = weeks.get("/api/journal/trace/back", params={"on": other["day"]}).json()
    assert {e["batch"] for e in on_the_day} == {b["id"] for b in weeks.get("/api/journal").json()["batches"] if b["day"] == other["day"]}
