"""The panel of the simulated devices, the lists that the page opens with, and what a screen is told of a kitchen's own rules."""

import pytest


@pytest.fixture
def touch(client):
    return lambda act, grams=0.0: client.post("/api/devices/scale", json={"act": act, "grams": grams}).json()


def test_a_scale_is_poured_on_lifted_and_emptied(touch):
    assert touch("pour", 412)["on_g"] == pytest.approx(412)
    assert touch("pour", -12)["on_g"] == pytest.approx(400, abs=0.1)
    lifted = touch("lift")
    assert lifted["lifted"] and lifted["on_g"] == 0
    assert touch("lift")["lifted"]  # lifted twice it is lifted once
    back = touch("put_back")
    assert not back["lifted"] and back["on_g"] == pytest.approx(400, abs=0.1)
    assert touch("put_back")["on_g"] == pytest.approx(400, abs=0.1)
    assert touch("pour", -6000)["on_g"] == 0  # nothing weighs less than nothing
    touch("pour", 300)
    touch("tare")
    assert touch("clear") == {**touch("clear"), "on_g": 0, "lifted": False}


@pytest.mark.parametrize(("off", "on", "key"), [("unplug", "plug", "plugged"), ("freeze", "thaw", "frozen")])
def test_a_scale_is_unplugged_and_frozen_and_comes_back(touch, off, on, key):
    gone, here = touch(off)[key], touch(on)[key]
    assert gone is (key == "frozen") and here is (key == "plugged")


@pytest.mark.parametrize(
    ("path", "body"),
    [("scale", {"act": "jump"}), ("scale", {"act": "pour", "grams": 7000}), ("scale", {"act": "pour", "grams": "nan"}), ("scale", {}), ("scale", {"act": "pour", "moon": 1}),
     ("surface", {"off_by_c": 81}), ("surface", {"plugged": "perhaps"})],
)  # fmt: skip
def test_what_no_device_does_is_refused_and_moves_nothing(client, path, body):
    before = client.get("/api/devices").json()
    refused = client.post(f"/api/devices/{path}", json=body)
    assert refused.status_code == 422 and refused.json()["error"] and client.get("/api/devices").json() == before


def test_a_surface_runs_hot_and_is_unplugged(client):
    hot = client.post("/api/devices/surface", json={"off_by_c": 15}).json()
    assert hot["off_by_c"] == 15 and hot["surface_plugged"]
    gone = client.post("/api/devices/surface", json={"plugged": False}).json()
    assert gone["off_by_c"] == 0 and not gone["surface_plugged"]


def test_the_page_opens_with_the_lists_that_everything_else_uses(client, facts):
    """One list of nutrients, of allergens and of animals, as the core has them."""
    start = client.get("/api/start").json()
    assert [n["key"] for n in start["nutrients"]][:3] == ["kcal", "protein_g", "fat_g"] and all(
        n["label"] and n["unit"] for n in start["nutrients"]
    )
    held = {
        t.rpartition(":")[2].split(":")[0] if not t.startswith("tree_nut") else "tree_nut"
        for i in facts.ingredients.values()
        for t in i.allergens
        if not t.startswith(("check:", "may:", "cross:"))
    }
    assert held <= {*start["allergens"], "rennet"} and start["allergens"][0] == "wheat"
    assert {i.animal for i in facts.ingredients.values()} <= {*start["animals"], "none", "check"}


def test_every_list_of_the_page_is_taken_by_a_diet(client):
    """What can be ticked can be denied, and what can be limited can be capped: no list has a word that the other side does not know."""
    start = client.get("/api/start").json()
    deny = [{"allergen": [a], "reason": f"holds {a}"} for a in start["allergens"]] + [
        {"animal": [a], "reason": f"from {a}"} for a in start["animals"]
    ]
    limits = [{"nutrient": n["key"], "most": 9_000} for n in start["nutrients"]]
    tried = client.post("/api/diets/try", json={"rule": {"key": "all_of_it", "label": "All of it", "deny": deny, "limits": limits}})
    assert tried.status_code == 200 and all(t["verdict"] != "fits" for t in tried.json())
    batter = {"lines": client.post("/api/read", json={"text": "200 g plain flour\n300 g milk\n9 g baking powder"}).json()}
    caps = {n["key"]: 9_000 for n in start["nutrients"]}
    found = client.post("/api/adapt", json={"batter": batter, "wishes": {"diets": ["vegan"], "caps": caps}})
    assert found.status_code == 200 and found.json()["answers"]


def test_labels_are_printed_until_the_roll_is_out(client):
    version = client.get("/api/start").json()["version"]
    batch = client.post("/api/stove/batches", json={"version": version["id"], "diets": []}).json()
    path = f"/api/stove/batches/{batch['id']}"
    nothing = client.post(f"{path}/labels")
    assert nothing.status_code == 422 and "nothing was kept" in nothing.json()["error"]
    kept = {"id": "a" * 16, "at": batch["now"], "kind": "kept", "what": "pieces_cold", "amount": 4, "until": batch["now"] + 86_400}
    assert client.post(f"{path}/events", json={"events": [kept]}).status_code == 200
    left = client.get("/api/devices").json()["labels_left"]
    panel = client.post(f"{path}/labels").json()
    assert (
        panel["labels_left"] == left - 1
        and panel["printed"][-1][0] == version["name"]
        and any("Contains" in line for line in panel["printed"][-1])
    )
    for _ in range(left - 1):
        assert client.post(f"{path}/labels").status_code == 200
    out = client.post(f"{path}/labels")
    assert out.status_code == 503 and "out of labels" in out.json()["error"]
    assert client.get(f"{path}/labels.pdf").content.startswith(b"%PDF")  # the sheet can be printed instead


def test_one_answer_serves_both_requests_and_a_pack_read_since_is_seen(client, ridge):
    """The first answer is asked for at each pause, and with the others when the typing stops: it is one and the same, until something is read."""
    asked = {"batter": ridge["batter"], "wishes": {"diets": ["gluten_free"]}}
    one = client.post("/api/adapt", json=asked).json()
    many = client.post("/api/adapt", json={**asked, "wishes": {**asked["wishes"], "alternatives": 5}}).json()
    assert many["answers"][0]["batter"]["batter"] == one["answers"][0]["batter"]["batter"]
    bought = next(line["line"]["ingredient"] for line in one["answers"][0]["batter"]["lines"] if line["line"]["ingredient"].endswith("_gf"))
    reading = {"ingredient": bought, "pack": "the wrong sack", "by": "Ilsabet", "on": "2026-11-01", "contains": ["wheat"]}
    assert client.post("/api/readings", json={"reading": reading}).status_code in (200, 201)
    after = client.post("/api/adapt", json=asked).json()
    assert all(line["line"]["ingredient"] != bought for a in after["answers"] for line in a["batter"]["lines"])
