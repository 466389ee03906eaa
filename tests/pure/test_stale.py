"""What a change makes stale, how things are known (an object by itself, a value by its store), and which touch is one of its own."""

import re
from pathlib import Path

QUERIES = Path(__file__).parents[2] / "web/src/api/queries.ts"


def test_every_key_is_one_that_is_asked_and_every_verdict_follows_a_reading(pure):
    asked = set(re.findall(r'queryKey: \["(\w+)"', QUERIES.read_text()))
    changes = ("reading", "item", "label", "diet", "profile", "learned", "surface", "book", "batch", "words", "copies")
    stale = {change: {key for (key,) in pure("p.staleAfter(a)", change)} for change in changes}
    assert all(keys and keys <= asked for keys in stale.values())
    verdicts = {"analyse", "adapt", "mend", "choices", "book", "family", "card", "batch"}
    assert all(verdicts <= stale[change] for change in ("reading", "item", "label", "diet", "profile", "learned"))
    assert {"find", "book"} <= stale["book"] and "start" in stale["profile"] and "larder" in stale["reading"]


def test_one_object_is_one_thing_and_its_copy_another(pure):
    assert pure("{ const x = {}, y = {}; return [p.idOf(x) === p.idOf(x), p.idOf(x) === p.idOf(y)] }") == [True, False]


def test_a_store_tells_of_each_change_once_and_of_no_other(pure):
    told = pure(
        "{ const s = new p.Store(1); let n = 0; const stop = s.watch(() => n++); s.set(2); s.set(2); s.set(3); stop(); s.set(4); return [n, s.get()] }"
    )
    assert told == [2, 4]


def test_the_last_touch_once_more_is_the_same_and_back_to_the_one_before_is_not(pure):
    begun = pure(
        "{ const t = new p.Twice(), a = {g: 10}, b = {g: 12}, file = new Blob(['x']); "
        "return [a, {g: 10}, b, {g: 10}, file, file, new Blob(['x'])].map((x) => t.begins(x)) }"
    )
    assert begun == [True, False, True, True, True, False, True]
    assert pure("{ const t = new p.Twice(), a = {g: 1}; t.begins(a); t.ends(a); return t.begins({g: 1}) }") is True
