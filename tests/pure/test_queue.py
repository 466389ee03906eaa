"""What the Stove's touches wait in: each is sent once and in order, whatever fails, in however many tabs."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many

# A box on a disk that outlives tabs, with a lock between them; a server that takes, refuses and gets lost by a script.
WORLD = """
  const disk = []; let n = 0; let locked = false; let broken = false;
  const box = {
    all: async () => { if (broken) throw 1; return disk.map((x) => ({ ...x })); },
    keep: async (acts) => { if (broken) throw 1; for (const x of acts) disk.push({ ...x, n: n++ }); },
    drop: async (ids) => { for (let i = disk.length - 1; i >= 0; i--) if (ids.includes(disk[i].event.id)) disk.splice(i, 1); },
    refuse: async (id, reason) => { for (const x of disk) if (x.event.id === id) x.refused = reason; },
    again: async (id) => { for (const x of disk) if (x.event.id === id) delete x.refused; },
    alone: async (work) => { if (locked) return; locked = true; try { await work(); } finally { locked = false; } },
  };
  const had = []; const seen = new Set(); const fates = [...a];
  const post = async (batch, events) => {
    const fate = fates.shift() ?? "taken";
    await new Promise((r) => setTimeout(r, 0));
    if (fate === "lost") return "lost";
    const bad = events.find((e) => e.bad);
    if (bad) return { refused: `no ${bad.id}` };
    for (const e of events) if (!seen.has(e.id)) { seen.add(e.id); had.push([batch, e.id]); }
    return fate === "unheard" ? "lost" : "taken"; // it was taken, and the word of it was lost on the way
  };
  const pending = [];
  const tab = () => new p.Queue({ box, post, later: (work) => { pending.push(work); return () => { const i = pending.indexOf(work); if (i >= 0) pending.splice(i, 1); }; } });
  const settle = async () => { for (let i = 0; i < 60 && pending.length > 0; i++) await pending.shift()(); };
"""
EVENTS = st.lists(st.tuples(st.sampled_from(["one", "two"]), st.booleans()), min_size=1, max_size=8)


@given(events=EVENTS, fates=st.lists(st.sampled_from(["taken", "lost", "unheard"]), max_size=6), tabs=st.integers(1, 2))
@settings(max_examples=many(50), deadline=None)
def test_each_is_had_once_and_in_order_and_what_is_refused_is_kept(pure, events, fates, tabs):
    made = [{"batch": batch, "event": {"id": f"e{n}", "bad": bad}} for n, (batch, bad) in enumerate(events)]
    had, left = pure(
        WORLD
        + """
        const all = [...Array(c)].map(tab);
        await Promise.all(b.map((m, i) => all[i % c].send(m.batch, [m.event])));
        await settle();
        for (const t of all) await t.look();
        return [had, all[0].acts.get()];
        """,
        fates,
        made,
        tabs,
    )
    good = [m for m in made if not m["event"]["bad"]]
    for batch in ("one", "two"):
        assert [id_ for b, id_ in had if b == batch] == [m["event"]["id"] for m in good if m["batch"] == batch]
    assert sorted(x["event"]["id"] for x in left) == sorted(m["event"]["id"] for m in made if m["event"]["bad"])
    assert all(x["refused"] == f"no {x['event']['id']}" for x in left)


def test_a_tab_that_is_closed_before_the_server_answers_loses_nothing(pure):
    had, left = pure(
        WORLD
        + """
        await tab().send("one", [{ id: "a" }, { id: "b" }]);       // lost, and the tab is gone
        pending.length = 0;
        const fresh = tab();
        await fresh.flush();
        return [had, fresh.acts.get()];
        """,
        ["lost"],
    )
    assert had == [["one", "a"], ["one", "b"]] and left == []


def test_a_device_without_a_disk_sends_from_memory(pure):
    had, left = pure(
        WORLD + "broken = true; const t = tab(); await t.send('one', [{ id: 'a' }]); await settle(); return [had, t.acts.get()];", ["lost"]
    )
    assert had == [["one", "a"]] and left == []


def test_what_was_refused_can_be_sent_again_or_let_go(pure):
    shown = pure(
        WORLD
        + """
        const t = tab(); const bad = { id: "x", bad: true };
        await t.send("one", [{ id: "a" }, bad, { id: "b" }]);
        const first = t.acts.get().map((q) => [q.event.id, q.refused]);
        bad.bad = false; for (const q of disk) q.event.bad = false;
        await t.sendAgain(t.acts.get()[0]);
        await t.send("one", [{ id: "y", bad: true }]);
        await t.letGo(t.acts.get()[0]);
        return [first, had, t.acts.get(), disk.length];
        """,
        [],
    )
    assert shown == [[["x", "no x"]], [["one", "a"], ["one", "b"], ["one", "x"]], [], 0]
