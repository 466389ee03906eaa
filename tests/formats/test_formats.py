"""Open formats: what goes out comes back, what is not carried is said, and hostile files are told plainly."""

import csv
import io
import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import BatterLine
from mutabilis.core.book.versions import BatterSheet, Made, Version
from mutabilis.core.measures.profile import Profile
from mutabilis.core.recipe.card import card
from mutabilis.formats import card_pdf, finding, json_ld, lines_csv, markdown, own_json, plain_text
from mutabilis.formats.own_json import Everything
from mutabilis.formats.shapes import Unreadable
from tests.conftest import PLAIN, RIDGE


@pytest.fixture
def a(batter, facts, profile):
    return analyse(batter(RIDGE + "\n30 g maple syrup, to serve", servings=5), facts, profile)


def out(a, facts, profile, name="Ridge *rye* <cakes>", note="Early. =1+1"):
    return card(name, a, ("vegan", "gluten_free"), facts, profile, note=note)


@pytest.mark.parametrize("kind", [plain_text, markdown, json_ld])
def test_a_card_comes_back_with_its_lines(kind, a, facts, profile):
    data = kind.write(out(a, facts, profile))
    name, found = finding.recipes(data, "", facts, profile)
    (one,) = found
    assert one.name == "Ridge *rye* <cakes>" and one.note == "Early. =1+1" and one.batter.servings == 5, name
    was, now = ({line.ingredient: (line.where, line.grams) for line in b.lines} for b in (a.batter, one.batter))
    assert now.keys() == was.keys() and all(not line.problem for line in one.batter.lines)
    for key, (where, grams) in was.items():
        assert now[key][0] == where and now[key][1] == pytest.approx(grams, rel=0.05)
    assert any("method" in x for x in one.left_out) and kind.NOT_CARRIED


def test_a_diet_is_claimed_only_where_it_fits(batter, facts, profile):
    def claimed(text):
        made = card("x", analyse(batter(text), facts, profile), ("vegan", "gluten_free"), facts, profile)
        return json.loads(json_ld.write(made))["suitableForDiet"]

    assert claimed(RIDGE) == []
    assert claimed("200 g buckwheat flour\n300 g soy drink") == ["https://schema.org/VeganDiet"]
    assert claimed("200 g plain flour\n300 g oat drink\n20 g butter, to serve") == []


PAGE = """<!doctype html><html><head><script>var x = "<script>";</script>
<script type="application/ld+json">{broken</script>
<script type="application/ld+json">{"@context": "https://schema.org", "@graph": [{"@type": "WebPage"}, {"@type": ["Recipe", "Thing"], "name": "Sunday &amp; waffles",
 "recipeYield": ["6", "6 waffles"], "recipeIngredient": ["2 cups flour", "1&frac12; cups milk", "2 <b>eggs</b>", "1 tbsp stardust"],
 "recipeInstructions": [{"text": "Mix."}], "nutrition": {"calories": "12"}}]}</script></head><body>x</body></html>"""


def test_a_saved_page_gives_its_recipe(facts, profile):
    kind, (one,) = finding.recipes(PAGE.encode(), "page.html", facts, profile)
    assert kind == "JSON-LD" and one.name == "Sunday & waffles" and one.batter.form == "waffle" and one.batter.servings == 6
    assert [line.ingredient for line in one.batter.lines] == ["all_purpose_flour", "whole_milk", "egg", None]
    assert one.batter.lines[1].grams == pytest.approx(366, rel=0.05)
    assert any("broken" in x for x in one.left_out) and any("nutrition" in x for x in one.left_out)


def test_ten_recipes_are_ten(facts, profile):
    ten = [{"@type": "Recipe", "name": f"No {n}", "recipeIngredient": ["1 egg"]} for n in range(10)]
    assert [f.name for f in finding.recipes(json.dumps({"@graph": ten}).encode(), "", facts, profile)[1]] == [f"No {n}" for n in range(10)]


HOSTILE = [
    (b"", "empty"),
    (b"   \n\x00 ", "ingredient"),
    (b"{" * 200_000, "broken"),
    (b'{"a":' * 50_000 + b"1" + b"}" * 50_000, "broken"),
    (b"[" * 100_000 + b"]" * 100_000, "no recipe|broken"),
    (b'{"@type": "Recipe", "recipeIngredient": 7}', "no recipe"),
    (b'{"@type": {"a": 1}, "recipeIngredient": [[["x"]]]}', "no recipe"),
    (b"<html><body>no data</body></html>", "no recipe data"),
    (b"%PDF-1.7 ...", "not a text"),
    (b"PK\x03\x04....", "not a text"),
    (b"SQLite format 3\x00" + b"\xff" * 500, "whole book"),
    (b"name,colour\nx,y", "ingredient|column"),
    (b"\xff\xfe" + "<html></html>".encode("utf-16-le"), "no recipe data"),
    (b"x" * 11_000_000, "larger than"),
]


@pytest.mark.parametrize(("data", "words"), HOSTILE, ids=[str(n) for n in range(len(HOSTILE))])
def test_hostile_files_are_told_plainly(data, words, facts, profile):
    try:
        kind, found = finding.recipes(data, "x", facts, profile)
    except Unreadable as error:
        assert any(w in str(error) for w in words.split("|")), str(error)
    else:  # a text of any kind is read as lines, each of them marked
        assert kind == "text" and all(line.problem for f in found for line in f.batter.lines)


@given(st.binary(max_size=400) | st.text(max_size=300).map(str.encode))
def test_any_bytes_are_a_recipe_or_a_reason(data):
    from mutabilis.data import load_facts

    for name in ("x.json", "x.csv", "x.md"):
        try:
            _, found = finding.recipes(data, name, load_facts(), Profile())
        except Unreadable:
            continue
        assert all(len(f.batter.lines) <= 200 and f.name for f in found)


def test_csv_cells_that_a_spreadsheet_would_run_are_escaped(facts, profile, batter):
    evil = ["=cmd|' /C calc'!A0", "+1", "-2", "@SUM(A1)", "\tx", " =1"]
    lines = tuple(BatterLine(text=t, problem="not known") for t in evil)
    b = batter(PLAIN).model_copy(update={"lines": (*batter(PLAIN).lines, *lines)})
    data = lines_csv.write(b, facts, profile)
    rows = list(csv.DictReader(io.StringIO(data.decode("utf-8-sig"))))
    assert not any(cell.lstrip(" ").startswith(("=", "+", "-", "@", "\t")) for row in rows for cell in row.values())
    back = lines_csv.read(data, facts, profile)[0].batter
    assert [line.grams for line in back.lines if line.ingredient] == [pytest.approx(line.grams, rel=1e-4) for line in batter(PLAIN).lines]
    assert [line.text for line in back.lines][-6:-2] == evil[:4]


def test_csv_keeps_the_good_rows(facts, profile):
    data = b"Name;Grams;place\nplain flour;200;\nmoon dust;50;\nbutter;nan;plate\nhoney;20;plate\n"
    lines = lines_csv.read(data, facts, profile)[0].batter.lines
    assert [(x.ingredient, x.grams, x.where) for x in lines] == [
        ("all_purpose_flour", 200, "batter"), (None, 0, "batter"), ("butter", 0, "plate"), ("honey", 20, "plate"),
    ]  # fmt: skip
    assert lines[2].problem


def sheet(batter):
    v = [
        Version(id=f"{n:016x}", batter_id="b" * 16, name="Ridge", number=n, parent=f"{n - 1:016x}" if n > 1 else None, diets=("vegan",) * (n - 1), note="‮ ½ 🥞\n", saved="2026-01-02T03:04:05+00:00", batter=batter(PLAIN, rest_min=7.5, rest_c=4, blender=True, portion_ml=80))
        for n in (1, 2)
    ]  # fmt: skip
    made = (Made(id="c" * 16, version_id=v[1].id, at="2026-01-03T00:00:00+00:00", good=True, note="x"),)
    return BatterSheet(id="b" * 16, name="Ridge", form="griddle", archived=None, versions=tuple(v), made=made)


def test_our_own_json_is_lossless(batter):
    whole = Everything(batters=(sheet(batter),), profile=Profile(cup_ml=250))
    data = own_json.write(whole)
    assert own_json.read(data) == whole and own_json.write(own_json.read(data)) == data
    assert own_json.is_own(data.decode()) and not own_json.NOT_CARRIED


@pytest.mark.parametrize(
    "data",
    [
        b'{"mutabilis": 2}',
        b'{"mutabilis": 1, "extra": 1}',
        b'{"mutabilis": 1, "batters": [{}]}',
        b'{"mutabilis": 1,',
        b'{"mutabilis":' + b"[" * 90_000,
    ],
)
def test_our_own_json_says_where_it_is_wrong(data):
    with pytest.raises(Unreadable):
        own_json.read(data)


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize(
    "text",
    [
        RIDGE,
        "\n".join(
            [
                RIDGE,
                "50 g ground flaxseed\n40 g courgette, grated\n60 g blueberries\n10 g cider vinegar\n2 egg whites, whipped\n1 tsp cinnamon\n20 g tapioca starch",
            ]
            * 1
        ),
    ],
)
def test_the_pdf_is_one_page(paper, text, batter, facts, profile):
    made = card(
        "Ridge 🥞 crêpes ⅓ " + "long " * 12,
        analyse(batter(text, "waffle"), facts, profile),
        ("vegan",),
        facts,
        profile,
        note="A note. " * 20,
    )
    data = card_pdf.write(made, Profile(shown="kitchen", decimal="comma"), paper)
    assert data.startswith(b"%PDF") and data.count(b"/Type /Page\n") == 1
    box = b"595.28 841.89" if paper == "a4" else b"612.00 792.00"
    assert box in data or box.replace(b".00", b"") in data


@pytest.mark.parametrize("way", ["jsonld", "txt", "md", "csv"])
def test_nothing_that_counts_is_lost_on_the_way_out_and_in(way, facts, profile, batter):
    """A line that is open, that holds more than its food, or that was not fully read, is no safer after a journey through a file."""
    from mutabilis.core.analysis.analysis import analyse
    from mutabilis.core.recipe.card import card
    from mutabilis.formats import finding, json_ld, lines_csv, markdown, plain_text

    text = "200 g flour\n60 g blueberries or walnuts\n30 g raisins, coated in yogurt\n20 g potatoes, zorbled\n40 g raspbery\n100 g rice; may contain soy"
    was = analyse(batter(text), facts, profile)
    made = card("Open cakes", was, (), facts, profile)
    data = (
        lines_csv.write(was.batter, facts, profile)
        if way == "csv"
        else {"jsonld": json_ld, "txt": plain_text, "md": markdown}[way].write(made)
    )
    _, (found,) = finding.recipes(data, f"x.{way}", facts, profile)
    now = analyse(found.batter, facts, profile)
    order = ("fits", "cannot_vouch", "conflicts")
    for key, judged in was.diets.items():
        if facts.diets[key].deny:
            assert order.index(now.diets[key].verdict) >= min(1, order.index(judged.verdict)), key
    assert set(was.contains) <= {*now.contains, *(m.partition(" ")[0] for m in now.may_contain)}
