"""A second pair of hands for the journeys: starts batches and says what happened over the wire, as another screen would."""

import json
import secrets
import time
import urllib.parse
import urllib.request


class Wire:
    """A running house, known by its address alone."""

    def __init__(self, url):
        self.url = url


class Hands:
    """Hands over a running house, on one batch."""

    def __init__(self, house, name="Ridge rye cakes", pieces=16, diets=("vegetarian",), whom="the night table", first_at=None):
        self.house = house
        found = self.call(f"/api/book?limit=3&q={urllib.parse.quote(name)}")["batters"][0]
        size = {"by": "pieces", "amount": pieces} if pieces else None
        self.batch = self.call(
            "/api/stove/batches", {"version": found["match"], "size": size, "diets": list(diets), "whom": whom, "first_at": first_at}
        )
        self.id = self.batch["id"]

    def call(self, path, body=None):
        request = urllib.request.Request(
            self.house.url.rstrip("/") + path, None if body is None else json.dumps(body).encode(), {"content-type": "application/json"}
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            return json.load(answer)

    def say(self, *events, ago=0.0):
        made = [{"id": secrets.token_hex(8), "at": time.time() - ago, **e} for e in events]
        self.batch = self.call(f"/api/stove/batches/{self.id}/events", {"events": made})
        return self.batch

    def look(self):
        self.batch = self.call(f"/api/stove/batches/{self.id}")
        return self.batch

    def go(self, stage):
        return self.say({"kind": "went", "stage": stage})

    def pour(self, grams, act="pour"):
        return self.call("/api/devices/scale", {"act": act, "grams": grams})

    def weigh_all(self):
        self.say({"kind": "went", "stage": "weigh"}, {"kind": "tared", "line": self.batch["weighing"]["current"], "gross": 400})
        gross = 400.0
        while self.batch["weighing"]["current"] is not None:
            w = self.batch["weighing"]
            if w["before"] is not None:
                self.say({"kind": "step_done", "key": w["before"]["key"], "wets": False, "leavens": False})
            x = next(x for x in w["lines"] if x["at"] == w["current"] and x["part"] == w["part"])
            grams = x["missing"] * (1.1 if x["ingredient"] == "egg" else 1.0)
            gross += grams
            self.say(
                {
                    "kind": "poured",
                    "line": x["at"],
                    "slot": x["slot"],
                    "grams": grams,
                    "gross": gross,
                    "by": x["by"],
                    "part": x["part"],
                    "done": x["last"],
                    "held": x["last"] and x["holds"],
                }
            )

    def mix_all(self, ago=300.0):
        steps = ({"kind": "step_done", "key": m["key"], "wets": m["wets"], "leavens": m["leavens"]} for m in self.batch["mixing"]["steps"])
        self.say({"kind": "went", "stage": "mix"}, *steps, {"kind": "step_done", "key": "hands"}, ago=ago)

    def heat(self, fat="sunflower_oil"):
        option = self.batch["cooking"]["options"][0]
        self.say(
            {"kind": "went", "stage": "cook"},
            {"kind": "surface_chosen", "surface": option["surface"], "celsius": option["surface"]["usual_c"],
             "grease": "film", "fat": fat, "portion_ml": option["piece"]["portion_ml"], "per_load": option["piece"]["per_load"]},
            {"kind": "heat_on"},
        )  # fmt: skip

    def to(self, stage):
        """Everything that comes before a stage done, and the batch there."""
        if stage in ("mix", "judge", "rest", "cook", "finish"):
            self.weigh_all()
        if stage in ("judge", "rest", "cook", "finish"):
            self.mix_all()
            self.say({"kind": "judged", "way": "spread", "value": 11.0}, ago=60)
        if stage in ("cook", "finish"):
            self.heat()
            self.say({"kind": "load_on", "load": 0, "pieces": 8}, ago=100)
        if stage == "finish":
            self.say({"kind": "turned", "load": 0}, {"kind": "off", "load": 0, "good": 8})
        self.go(stage)
        return self
