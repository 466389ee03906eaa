"""Book, Larder, Kitchen and files through the API: what is kept counts from then on, and what is refused changes nothing."""

import json
import tomllib

import pytest

LABEL = {
    "name": "Hill oat drink", "kind": "drink", "kcal": 46, "fat_g": 1.5, "saturates_g": 0.2, "carbohydrate_g": 6.5, "sugars_g": 3.5, "fibre_g": 0.8,
    "protein_g": 1.0, "salt_g": 0.1, "contains": ["oats"], "vegan": True, "certified_gluten_free": True, "added_sugar": False,
}  # fmt: skip


def analysed(client, text, diets=()):
    lines = client.post("/api/read", json={"text": text}).json()
    return client.post("/api/analyse", json={"batter": {"lines": lines}, "diets": list(diets)}).json()


def by_name(client, name):
    return next(b for b in client.get("/api/book").json()["batters"] if b["name"] == name)


# ---- the Bench


def test_verdicts_and_questions_come_with_the_lines(client):
    view = analysed(client, "250 g flour\n2 tbsp baking powder\n1 cup coconut milk\n300 g milk\n10 g butter, to serve\n2-3 eggs", ["vegan"])
    lines = {x["name"]: x for x in view["lines"]}
    assert (
        view["guests"]["verdict"] == view["guests"]["plate_verdict"] == "conflicts"
        and lines["all-purpose wheat flour"]["verdict"] == "fits"
    )
    assert lines["unsalted butter"]["verdict"] == "conflicts" and "perhaps" in lines["baking powder"]["query"]
    assert [c["id"] for c in lines["coconut milk"]["could_be"]] == ["coconut_milk", "coconut_drink"] and lines["whole egg"]["ranged"]
    assert view["pieces"]["cost"]["total"] > 0 and "coconut milk" in view["pieces"]["cost"]["unpriced"]
    plate = analysed(client, "200 g flour\n300 g oat drink\n10 g butter, to serve", ["vegan"])
    assert plate["guests"]["verdict"] == "fits" and plate["guests"]["plate_verdict"] == "conflicts"


def test_only_what_is_in(client, ridge):
    body = {"batter": ridge["batter"], "wishes": {"diets": ["egg_free"]}, "larder_only": True}
    found = client.post("/api/adapt", json=body).json()
    (answer,) = found["answers"][:1] or [found["infeasible"]["nearest"]]
    assert answer["buy"] == []
    free = client.post("/api/adapt", json={**body, "larder_only": False, "wishes": {"diets": ["vegan", "gluten_free"]}}).json()
    assert free["answers"][0]["buy"]


def test_a_swap_by_hand_a_size_and_a_card(client, ridge):
    at = next(n for n, x in enumerate(ridge["batter"]["lines"]) if x["ingredient"] == "whole_milk")
    found = client.post("/api/choices", json={"batter": ridge["batter"], "line": at, "diets": ["vegan"]}).json()
    assert found and all(c["verdict"] != "conflicts" and len(c["effects"]) == 8 for c in found)
    assert client.post("/api/choices", json={"batter": ridge["batter"], "line": 99, "diets": []}).status_code == 422
    sized = client.post("/api/scale", json={"batter": ridge["batter"], "size": {"by": "pieces", "amount": 24}}).json()
    assert sized[0]["view"]["pieces"]["yields"]["whole"] in (23, 24)
    assert client.post("/api/scale", json={"batter": ridge["batter"], "size": {"by": "iron", "amount": 2}}).status_code == 422
    asked = {"batter": ridge["batter"], "name": "Ridge", "diets": ["vegan"], "order": "blender"}
    card = client.post("/api/card", json=asked).json()
    assert card["verdicts"][0]["verdict"] == "conflicts" and any(s["key"] == "blend" for s in card["steps"])
    pdf = client.post("/api/card.pdf", json={**asked, "paper": "letter"})
    assert pdf.content.startswith(b"%PDF") and pdf.headers["content-type"] == "application/pdf"


# ---- the Book


def test_the_shelf_is_searched_and_sieved(client):
    def names(**query):
        return {b["name"] for b in client.get("/api/book", params=query).json()["batters"]}

    assert names(q="buttermilk") == {"First light buttermilk cakes"} and names(form="crepe") == {"Meridian crêpes"}
    assert names(diet="egg_free") == {"Dome waffles", "First light buttermilk cakes"}
    assert names(diet="vegan") == {"First light buttermilk cakes"} and names(diet="gluten_free") == {"Dome waffles"}
    shelf = client.get("/api/book", params={"diet": "egg_free"}).json()["batters"]
    for b in shelf:
        version = client.get(f"/api/versions/{b['match']}").json()
        view = client.post("/api/analyse", json={"batter": version["batter"], "diets": ["egg_free"]}).json()
        assert view["guests"]["verdict"] == "fits"
    assert "Ridge rye cakes" in names(larder="true") and "Small-hours almond waffles" not in names(larder="true")
    assert client.get("/api/book", params={"diet": "moon"}).status_code == 422


def test_a_family_tells_what_changed_for_whom_and_how_it_came_out(client):
    family = client.get(f"/api/batters/{by_name(client, 'First light buttermilk cakes')['id']}").json()
    first, dairy, vegan = family["versions"]
    assert first["changed"] == "" and dairy["parent"] == vegan["parent"] == first["id"] and "cultured buttermilk →" in dairy["changed"]
    assert dairy["badges"] == [{"diet": "dairy_free", "label": "Dairy-free", "verdict": "fits"}] and dairy["standing"] == "proven"
    made = client.post(f"/api/versions/{vegan['id']}/made", json={"good": True, "id": "0123456789abcdef"})
    again = client.post(f"/api/versions/{vegan['id']}/made", json={"good": True, "id": "0123456789abcdef"})
    assert made.status_code == 201 and again.json() == made.json()
    assert client.get(f"/api/batters/{family['id']}").json()["versions"][2]["standing"] == "made"
    assert client.delete(f"/api/made/{made.json()['id']}").status_code == 204
    two = client.post("/api/compare", json={"left": first["id"], "right": vegan["id"]}).json()
    assert (
        two["changed"] == vegan["changed"]
        and any(p["left"] is None for p in two["pairs"])
        and two["right_view"]["guests"]["verdict"] == "fits"
    )


def test_rename_put_away_duplicate(client, ridge):
    path = f"/api/batters/{ridge['batter_id']}"
    assert client.patch(path, json={"name": "  Valley cakes "}).status_code == 204
    assert by_name(client, "Valley cakes")["id"] == ridge["batter_id"]
    assert client.patch(path, json={"name": "   "}).status_code == 422
    client.patch(path, json={"archived": True})
    assert client.get("/api/book").json()["total"] == 6 and client.get("/api/book", params={"archived": True}).json()["total"] == 1
    client.patch(path, json={"archived": False})
    copy = client.post(f"/api/versions/{ridge['id']}/duplicate").json()
    assert copy["name"] == "Valley cakes (copy)" and copy["batter"] == ridge["batter"] and copy["batter_id"] != ridge["batter_id"]
    kinds = [h["kind"] for h in client.get("/api/find", params={"q": "rye"}).json()]
    assert "batter" in kinds and "ingredient" in kinds


# ---- the Larder


def test_a_cup_is_that_of_whoever_measured_with_it(client):
    """A weighing counts for the cup that was weighed; a batter is read, and kept, in the cup of its source."""
    client.put("/api/profile", json={**client.get("/api/profile").json(), "cup_ml": 250})
    client.put("/api/larder/oat_flour", json={"ingredient": "oat_flour", "cup_g": 98, "tsp_g": 2})
    grams = {t: analysed(client, t)["lines"][0]["line"]["grams"] for t in ("1 cup oat flour", "1 tsp oat flour", "1 tbsp oat flour")}
    assert grams["1 cup oat flour"] == pytest.approx(98) and grams["1 tsp oat flour"] == pytest.approx(2)
    assert grams["1 tbsp oat flour"] == pytest.approx(98 / 250 * 14.787, rel=1e-3)
    client.put("/api/profile", json={**client.get("/api/profile").json(), "cup_ml": 240})
    assert analysed(client, "1 cup oat flour")["lines"][0]["line"]["grams"] == pytest.approx(98 * 240 / 250)
    (theirs,) = client.post("/api/read", json={"text": "1 cup oat flour", "cup_ml": 200}).json()
    assert theirs["grams"] == pytest.approx(98 * 200 / 250)
    text = b"Cakes\n1 cup oat flour\n2 tbsp honey\n1 cup milk"
    (found,) = client.post("/api/import", params={"filename": "a.txt", "cup_ml": 250, "tbsp_ml": 20}, content=text).json()["recipes"]
    assert (found["batter"]["cup_ml"], found["batter"]["tbsp_ml"]) == (250, 20) and found["batter"]["lines"][0]["grams"] == pytest.approx(
        98
    )
    saved = client.post("/api/batters", json={"name": "Cakes", "version": {"batter": found["batter"]}}).json()
    assert client.get(f"/api/versions/{saved['id']}").json()["batter"] == found["batter"]


def test_a_pack_put_away_leaves_its_name_free(client):
    first = client.put("/api/labels", json=LABEL).json()
    assert client.put("/api/labels", json=LABEL).status_code == 422
    client.delete(f"/api/labels/{first['id']}")
    assert client.put("/api/labels", json=LABEL).json()["id"] != first["id"]


def test_a_cup_a_price_and_a_thirst_are_used_from_then_on(client):
    before = analysed(client, "1 cup oat flour\n100 g water")
    item = client.get("/api/larder/oat_flour").json()["item"]
    assert client.put("/api/larder/oat_flour", json={**item, "cup_g": 98, "absorption": 2.5, "pack_g": 500, "price": 2}).status_code == 204
    after = analysed(client, "1 cup oat flour\n100 g water")
    assert after["lines"][0]["line"]["grams"] == pytest.approx(98) != before["lines"][0]["line"]["grams"]
    assert after["pieces"]["cost"]["total"] == pytest.approx(0.392)
    known = client.get("/api/larder/oat_flour").json()
    assert (
        known["weighs"][0]["given_g"] != 98
        and known["weighs"][0] | {"given_g": 0} == {"measure": "cup", "counted_g": pytest.approx(98), "given_g": 0, "weighed": True}
        and known["table_absorption"] != 2.5
        and known["ingredient"]["absorption_g_per_g"] == 2.5
    )
    client.put("/api/larder/oat_flour", json=item)
    assert analysed(client, "1 cup oat flour\n100 g water")["lines"] == before["lines"]
    for bad in ({"cup_g": -1}, {"price": "x"}, {"stock_g": 1e12}, {"pack": "x" * 200}, {"moon": 1}):
        assert client.put("/api/larder/oat_flour", json={**item, **bad}).status_code == 422
    assert client.put("/api/larder/unobtainium", json={"ingredient": "unobtainium"}).status_code == 404
    assert client.put("/api/larder/oat_flour", json={"ingredient": "egg"}).status_code == 422


def test_search_forgives(client):
    first = {
        q: client.get("/api/larder", params={"q": q}).json()["items"][0]["id"] for q in ("courgette", "zuchini", "plain flour", "bicarb")
    }
    assert first["courgette"].startswith("courgette") and first["zuchini"].startswith("courgette")
    assert first["plain flour"] == "all_purpose_flour" and first["bicarb"] == "baking_soda"


def test_an_own_pack_is_read_by_its_name_and_outlives_its_putting_away(client):
    shown = client.post("/api/labels/infer", json=LABEL).json()
    assert shown["does"][0]["function"] == "wets" and shown["ingredient"]["confidence"] == "low"
    kept = client.put("/api/labels", json=LABEL).json()
    assert kept["id"] == "own_hill_oat_drink"
    assert client.put("/api/labels", json=LABEL).status_code == 422  # a second one of the name
    view = analysed(client, "200 g flour\n300 g hill oat drink", ["vegan"])
    assert view["lines"][1]["line"]["ingredient"] == kept["id"] and view["guests"]["verdict"] == "fits"
    saved = client.post("/api/batters", json={"name": "Own", "version": {"batter": view["batter"]}}).json()
    assert client.delete(f"/api/labels/{kept['id']}").status_code == 204
    assert client.get("/api/larder", params={"q": "hill oat"}).json()["items"] == [] or kept["id"] not in str(
        client.get("/api/larder", params={"q": "hill oat"}).json()
    )
    assert (
        client.post("/api/card", json={"batter": client.get(f"/api/versions/{saved['id']}").json()["batter"], "name": "x"}).status_code
        == 200
    )
    assert client.put("/api/labels", json={**LABEL, "id": kept["id"], "absorption": None, "protein_g": 2}).status_code == 201
    assert client.get(f"/api/larder/{kept['id']}").json()["label"]["protein_g"] == 2
    for bad in ({"saturates_g": 9}, {"kcal": 700}, {"name": ""}, {"sugars_g": 90}, {"id": "egg"}, {"fat_g": -1}):
        refused = client.put("/api/labels", json={**LABEL, "name": "Other", **bad})
        assert refused.status_code == 422 and refused.json()["error"], bad


def test_reading_the_pack_clears_a_line_and_lapses_with_a_new_one(client):
    def verdict():
        return analysed(client, "200 g buckwheat flour\n300 g water", ["gluten_free"])["guests"]["verdict"]

    reading = {"ingredient": "buckwheat_flour", "pack": "grey bag", "by": "Ilsabet", "on": "2026-01-02", "certified_gluten_free": True}
    assert verdict() == "cannot_vouch"
    kept = client.post("/api/readings", json={"reading": reading}).json()
    assert verdict() == "fits"
    item = client.get("/api/larder/buckwheat_flour").json()["item"]
    client.put("/api/larder/buckwheat_flour", json={**item, "pack": "new bag"})
    assert verdict() == "cannot_vouch"
    client.put("/api/larder/buckwheat_flour", json={**item, "pack": "grey bag"})
    assert verdict() == "fits"
    client.delete(f"/api/readings/{kept['id']}")
    assert verdict() == "cannot_vouch"
    assert client.post("/api/readings", json={"reading": {**reading, "by": ""}}).status_code == 422
    contains = {**reading, "contains": ["wheat"]}
    client.post("/api/readings", json={"reading": contains})
    assert analysed(client, "200 g buckwheat flour\n300 g water", ["wheat_free"])["guests"]["verdict"] == "conflicts"


def test_an_own_diet_is_tried_saved_as_a_file_and_put_away(client, tmp_path):
    rule = {
        "key": "house", "label": "House \"breakfast\"\t\\", "deny": [{"allergen": ["egg"], "reason": "holds egg"}, {"ingredient": ["butter"], "only": {"honey": "strict", "coconut_is_nut": False}, "reason": "no butter"}],
        "limits": [{"nutrient": "sugars_g", "most": 12.5}], "caution": "Line one.\nLine two.",
    }  # fmt: skip
    tried = {t["name"]: t["verdict"] for t in client.post("/api/diets/try", json={"rule": rule}).json()}
    assert tried["Ridge rye cakes"] == "conflicts" and len(tried) == 7
    assert client.put("/api/diets/house", json={"rule": rule}).status_code == 204
    path = tmp_path / "diets" / "house.toml"
    assert tomllib.loads(path.read_text())["label"] == rule["label"]
    assert analysed(client, "200 g flour\n1 egg\n200 g milk", ["house"])["guests"]["verdict"] == "conflicts"
    assert next(d for d in client.get("/api/start").json()["known_diets"] if d["key"] == "house")["own"]
    assert client.get("/api/book", params={"diet": "house"}).json()["total"] >= sum(v == "fits" for v in tried.values())
    for bad in (
        {"deny": [], "limits": []},
        {"deny": [{"allergen": ["mik"], "reason": "typo"}]},
        {"allow": ["unobtainium"]},
        {"key": "vegan"},
        {"key": "two", "label": "VEGAN"},
    ):
        sent = {**rule, **bad}
        assert client.put(f"/api/diets/{sent['key']}", json={"rule": sent}).status_code == 422, bad
    assert client.delete("/api/diets/house").json()["label"] == rule["label"]
    assert not path.exists() and path.with_suffix(".toml.away").exists()
    assert client.delete("/api/diets/vegan").status_code == 404
    assert client.post("/api/analyse", json={"batter": {"lines": []}, "diets": ["house"]}).status_code == 422


def test_the_profile_counts(client):
    profile = client.get("/api/profile").json()
    before = analysed(client, "1 cup milk\n100 g flour")["batter_g"]
    client.put("/api/profile", json={**profile, "cup_ml": 250})
    assert analysed(client, "1 cup milk\n100 g flour")["batter_g"] - 100 == pytest.approx((before - 100) * 250 / 236.588)
    assert client.put("/api/profile", json={**profile, "cup_ml": 5}).status_code == 422


# ---- files


def send(client, data, name="x.txt"):
    return client.post("/api/import", params={"filename": name}, content=data, headers={"content-type": "application/octet-stream"})


@pytest.mark.parametrize("format", ["jsonld", "txt", "md", "csv"])
def test_a_version_goes_out_and_comes_back(client, ridge, format):
    out = client.get(f"/api/versions/{ridge['id']}/file", params={"format": format})
    assert "attachment" in out.headers["content-disposition"]
    (one,) = send(client, out.content, f"r.{format}").json()["recipes"]
    assert sorted(x["ingredient"] for x in one["batter"]["lines"]) == sorted(x["ingredient"] for x in ridge["batter"]["lines"])


def test_everything_moves_to_another_kitchen(client, facts, tmp_path):
    from fastapi.testclient import TestClient

    from mutabilis.api.app import create_app
    from mutabilis.store.database import Database

    client.put("/api/labels", json=LABEL)
    client.put("/api/diets/house", json={"rule": {"key": "house", "label": "House", "allow": ["own_hill_oat_drink", "egg"]}})
    lines = client.post("/api/read", json={"text": "200 g flour\n100 g hill oat drink"}).json()
    client.post("/api/batters", json={"name": "Own", "version": {"batter": {"lines": lines}}})
    data = client.get("/api/everything").content
    other_app = create_app(facts, Database(tmp_path / "other" / "b.sqlite3")) if (tmp_path / "other").mkdir() is None else None
    with TestClient(other_app, base_url="http://127.0.0.1") as other:
        told = send(other, data, "book.json").json()
        assert (told["kept"], told["already"]) == (8, 0), told
        again = send(other, data, "book.json").json()
        assert (again["kept"], again["already"]) == (0, 8)
        back = json.loads(other.get("/api/everything").content)
        assert {**back, "profile": None} == {**json.loads(data), "profile": None}


def test_hostile_files_change_nothing(client):
    before = client.get("/api/everything").content
    for data in (
        b"",
        b"{" * 10_000,
        b'{"mutabilis": 1, "batters": [7]}',
        b"\x00" * 1000,
        b"%PDF",
        b'{"mutabilis": 1, "batters": ' + b"[" * 100_000,
    ):
        answer = send(client, data)
        assert answer.status_code == 422 and "Nothing was changed" in answer.json()["error"]
    assert send(client, b"x" * 10_500_000).status_code == 413
    evil = json.loads(before)
    evil["batters"][0]["id"], evil["batters"][0]["versions"][0]["batter"]["lines"][0]["ingredient"] = "f" * 16, "unobtainium"
    told = send(client, json.dumps(evil).encode()).json()
    assert told["kept"] == 0 and "not known here" in told["told"][0]
    evil["batters"][0]["versions"][0]["batter"]["lines"][0]["ingredient"] = "egg"
    assert "left out" in send(client, json.dumps(evil).encode()).json()["told"][0]  # its versions are here, under another batter
    assert client.get("/api/everything").content == before


def test_every_place_has_its_page(client):
    for path in ("/book/abc", "/larder/oat_flour", "/kitchen/diets", "/card/x", "/bench"):
        assert client.get(path).status_code == 200
    assert client.get("/moon").status_code == 404


def test_the_shelf_of_a_diet_is_what_the_core_lets_pass_no_more_and_no_less(client):
    """For every diet, against every version of every batter judged one by one; an own diet and a reading among them."""
    rule = {"key": "house", "label": "House", "deny": [{"ingredient": ["egg", "oat_drink"], "reason": "not in this house"}]}
    client.put("/api/diets/house", json={"rule": rule})
    says = {"ingredient": "oat_flour", "by": "Ottilie", "on": "2026-11-25", "says": ["certified_gluten_free"]}
    assert client.post("/api/readings/answers", json=says).status_code == 201
    batters = client.get("/api/book").json()["batters"]
    versions = {
        b["id"]: {
            v["id"]: client.get(f"/api/versions/{v['id']}").json()["batter"]
            for v in client.get(f"/api/batters/{b['id']}").json()["versions"]
        }
        for b in batters
    }
    for diet in [d["rule"]["key"] for d in client.get("/api/diets").json()]:
        shelf = {b["id"]: b["match"] for b in client.get("/api/book", params={"diet": diet, "limit": 100}).json()["batters"]}
        for id_, family in versions.items():
            passing = []
            for version, batter in family.items():
                view = client.post("/api/analyse", json={"batter": batter, "diets": [diet]}).json()
                passing += [version] if view["guests"]["verdict"] == "fits" else []
            assert (id_ in shelf) == bool(passing), (diet, id_)
            assert not passing or shelf[id_] in passing


def test_a_bag_of_dry_mix_is_made_labelled_used_and_put_away(client):
    lines = client.post("/api/read", json={"text": "200 g flour\n10 g baking powder\n20 g sugar\n210 g milk\n1 egg"}).json()
    version = client.post("/api/batters", json={"name": "Hearth", "version": {"batter": {"lines": lines}}}).json()
    looked = client.get(f"/api/versions/{version['id']}/dry-mix", params={"times": 4}).json()
    assert (
        looked["made_g"] == 920 and "1 large egg" in looked["mix"]["add_words"] and any("egg" in x and "milk" in x for x in looked["label"])
    )
    bag = client.post("/api/dry-mixes", json={"version": version["id"], "times": 4, "id": "0123456789abcdef"}).json()
    assert bag["batches"] == 4 and not bag["past"]
    label = client.get(f"/api/dry-mixes/{bag['kept']['id']}/label.pdf")
    assert label.content[:4] == b"%PDF"
    start = {"version": version["id"], "mix": {"id": bag["kept"]["id"], "grams": 460}}
    batch = client.post("/api/stove/batches", json=start).json()
    assert batch["from_mix"] == "from 460 g of dry mix" and batch["weighing"]["pieces"] > 1
    assert sum(x["target"] for x in batch["weighing"]["lines"] if x["part"] == "bag") == pytest.approx(460)
    assert client.get("/api/dry-mixes").json()[0]["batches"] == 2
    assert client.post("/api/stove/batches", json={**start, "mix": {"id": bag["kept"]["id"], "grams": 600}}).status_code == 422
    other = client.get("/api/start").json()["version"]["id"]
    assert client.post("/api/stove/batches", json={**start, "version": other}).status_code == 422, "a bag of another version"
    assert (
        client.patch("/api/dry-mixes/0123456789abcdef", json={"away": True}).json()["kept"]["away"]
        and client.get("/api/dry-mixes").json() == []
    )
    assert client.get("/api/versions/nowhere/dry-mix").status_code == 404
