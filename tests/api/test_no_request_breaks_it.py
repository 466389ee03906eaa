"""Requests made up from the server's own schema, with a pinch of poison: each is answered in plain words, none breaks the server."""

import json
import random
import re
from urllib.parse import quote

import pytest
from fastapi.testclient import TestClient

from tests.sizes import many

POISON = ["\x00", "<script>", "\u202e", "🧇" * 50, "x" * 5000, "", -1, 1e308, 0, None, True, [], {}, "NaN", 10**30, "own_" * 30, "\ud800"]
FILES = [
    b"{}",
    b"[",
    b"<html>",
    b"text,grams\n=1+1,3",
    b"\xff\xfe\x00",
    b'{"@type": "Recipe", "name": null, "recipeIngredient": [1, null, {}]}',
]


class Maker:
    """Values of a schema; one in forty is poison."""

    def __init__(self, schemas, version, seed):
        self.schemas, self.version, self.rng = schemas, version, random.Random(seed)
        self.words = ["egg", "oat_flour", "vegan", version["id"], version["batter_id"], "2026-01-01", "1 cup flour\n2 eggs"]

    def id(self, _):
        return quote(self.rng.choice([*self.words, "own_x", "\x00", "../..", "x" * 300]), safe="")

    def value(self, schema, depth=0):
        rng = self.rng
        if rng.random() < 0.025:
            return rng.choice(POISON)
        if "$ref" in schema:
            name = schema["$ref"].split("/")[-1]
            return self.version["batter"] if name == "Batter" and rng.random() < 0.6 else self.value(self.schemas[name], depth + 1)
        if "anyOf" in schema or "oneOf" in schema:
            return self.value(rng.choice(schema.get("anyOf") or schema["oneOf"]), depth + 1)
        if "enum" in schema or "const" in schema:
            return rng.choice(schema.get("enum", [schema.get("const")]))
        kind = schema.get("type")
        if kind == "object":
            made = {k: self.value(p, depth + 1) for k, p in schema.get("properties", {}).items() if rng.random() < 0.95}
            more = schema.get("additionalProperties")
            return made or {rng.choice(["egg", "milk", "oats"]): self.value(more if isinstance(more, dict) else {}, depth + 1)}
        if kind == "array":
            return [self.value(schema.get("items", {}), depth + 1) for _ in range(rng.choice([0, 1, 2]))] if depth < 8 else []
        return {"string": rng.choice(self.words), "boolean": rng.random() < 0.5}.get(kind, rng.choice([0, 1, 2, 12, 100, 0.5, 1e6, -3]))


@pytest.mark.parametrize("seed", range(many(1)))
def test_no_request_breaks_it(client, ridge, seed):
    calm = TestClient(client.app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    spec = client.app.openapi()
    make = Maker(spec["components"]["schemas"], ridge, seed)
    rng, answered = make.rng, set()
    batch = client.post("/api/stove/batches", json={"version": ridge["id"], "id": "00000000000000ba"}).json()
    make.words += [batch["id"], "00000000000000e1"]
    paths = {path: operations for path, operations in spec["paths"].items() if path != "/api/stove/stream"}  # it never ends
    for _ in range(4):
        for path, operations in paths.items():
            for method, operation in operations.items():
                url = re.sub(r"\{\w+\}", make.id, path)
                query = {p["name"]: make.value(p["schema"]) for p in operation.get("parameters", []) if p["in"] == "query"}
                query = {k: str(v).encode(errors="replace").decode() for k, v in query.items() if v is not None}
                body = operation.get("requestBody", {}).get("content", {})
                sent = {}
                if "application/json" in body:
                    text = json.dumps(make.value(body["application/json"]["schema"]))
                    sent = {"content": text, "headers": {"content-type": "application/json"}}
                elif body:
                    sent = {"content": rng.choice(FILES)}
                response = calm.request(method, url, params=query, **sent)
                assert response.status_code < 500, (method, url, query, sent)
                if response.status_code >= 400:
                    assert response.json()["error"], (method, url)
                answered.add((method, path, response.status_code < 400))
    assert sum(good for _, _, good in answered) > 15  # it is not only refused
    assert client.get("/api/book").json()["total"] >= 6 and client.get("/api/start").status_code == 200
