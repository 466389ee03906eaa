"""Mends, pieces and kinds of answer over the wire; a batter that is meant to be flat; a file that is no backup."""

import pytest


def read(client, text, **batter):
    return {"lines": client.post("/api/read", json={"text": text}).json(), **batter}


SODA = "220 g plain flour\n300 ml oat milk\n2 tsp bicarbonate of soda\n25 g sugar\n2 tbsp oil"


def test_a_mend_is_served_with_its_words_and_makes_the_batter_sound(client):
    batter = read(client, SODA)
    told = client.post("/api/mend", json={"batter": batter, "diets": []}).json()
    assert "Soda finds no acid" in told["faults"][0] and told["mend"]["codes"] == ["alkali_left"] and not told["may_be_flat"]
    after = client.post("/api/mend", json={"batter": told["mend"]["batter"], "diets": []}).json()
    assert after == {"faults": [], "mend": None, "may_be_flat": False}
    view = client.post("/api/analyse", json={"batter": told["mend"]["batter"], "diets": ["dairy_free"]}).json()
    assert view["guests"]["verdict"] == "fits" and not view["at_fault"]
    assert view["lines"][0]["called"] == "plain flour"


def test_flat_is_offered_kept_with_the_version_and_silences_the_fault(client):
    batter = read(client, "200 g cornmeal\n300 ml boiling water\n3 g salt")
    assert client.post("/api/mend", json={"batter": batter, "diets": []}).json()["may_be_flat"]
    flat = {**batter, "flat": True}
    assert client.post("/api/mend", json={"batter": flat, "diets": []}).json()["faults"] == []
    saved = client.post("/api/batters", json={"name": "Hearth cakes", "version": {"batter": flat}})
    assert saved.status_code == 201
    again = client.get(f"/api/versions/{saved.json()['id']}").json()
    assert again["batter"]["flat"] is True and again["batter"]["lines"] == flat["lines"]


def test_the_largest_piece_is_asked_for_by_itself(client):
    piece = client.post(
        "/api/piece", json={"batter": read(client, "200 g flour\n290 g milk\n1 egg\n9 g baking powder\n30 g butter")}
    ).json()
    assert piece["portion_ml"] % 5 == 0 and piece["done_s"] > piece["turn_s"] > 30 and piece["words"].endswith(").")
    assert client.post("/api/piece", json={"batter": {"lines": []}}).json() is None


def test_five_kinds_of_answer_are_placed(client, ridge):
    found = client.post("/api/adapt", json={"batter": ridge["batter"], "wishes": {"diets": ["vegan"], "alternatives": 5}}).json()
    assert [s["kind"] for s in found["slots"]] == ["nearest", "larder", "least_to_buy", "most_protein", "simplest"]
    for slot in found["slots"]:
        assert (slot["answer"] is None) == (slot["fact"] == "") == (slot["empty"] != "")
        if slot["answer"] is not None:
            answer = found["answers"][slot["answer"]]
            assert answer["kind"] == slot["kind"] and answer["fact"] == slot["fact"]
    assert len({s["answer"] for s in found["slots"] if s["answer"] is not None}) == len(found["answers"])


def test_a_mend_keeps_to_the_diets_asked_for(client):
    """A limit a serving is held where its diet is asked for: powder would bring more sodium than a low-sodium guest may have."""
    batter = read(client, "200 g flour\n300 g oat drink\n20 g sugar")
    free = client.post("/api/mend", json={"batter": batter, "diets": []}).json()["mend"]
    held = client.post("/api/mend", json={"batter": batter, "diets": ["low_sodium"]}).json()["mend"]
    assert free is not None
    if held is not None:
        view = client.post("/api/analyse", json={"batter": held["batter"], "diets": ["low_sodium"]}).json()
        assert view["guests"]["verdict"] == "fits"


@pytest.mark.parametrize("content", [b"", b"[", b"SQLite format 3\x00" + b"\x00" * 200, b"<html>"])
def test_what_is_no_backup_is_the_senders_fault(content, client):
    before = client.get("/api/book").json()
    refused = client.post("/api/restore", content=content)
    assert refused.status_code == 422 and "nothing was changed" in refused.json()["error"].lower()
    assert client.get("/api/book").json() == before


def test_a_diet_that_is_not_known_is_refused_by_name(client):
    answer = client.post("/api/mend", json={"batter": read(client, SODA), "diets": ["moon"]})
    assert answer.status_code in (404, 422) and "moon" in answer.json()["error"]
