"""A kitchen's own diets as files: written whole, never in the place of a shipped one, archived rather than deleted."""

import pytest

from mutabilis.core.diets.rules import Clause, DietRule, Limit, read_rule
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.store.diet_files import OwnDiets, with_rules, written
from mutabilis.store.kitchen import load_kitchen
from mutabilis.store.own_files import LARGEST, text_of


def rule(key="night_table", label="Night table", **more):
    return DietRule(key=key, label=label, **{"deny": (Clause(allergen=("sesame",), reason="no sesame here"),), **more})


@pytest.fixture
def kept(tmp_path):
    return OwnDiets(tmp_path / "diets")


@pytest.mark.parametrize(
    "one",
    [
        rule(), rule(label="Tisch „Süd“ \\ \"5\"", caution="Ask\ttwice.\nAnd again."), rule(deny=(), allow=("egg", "water")),
        rule(deny=(), limits=(Limit(nutrient="sodium_mg", most=120.5, reason="a doctor's word"),)),
        rule(deny=(Clause(animal=("egg",), only={"honey": "strict", "coconut_is_nut": True}, verdict="cannot_vouch", reason="perhaps\x7f"), Clause(lactose=True, gluten=("yes",), reason="both of them"))),
    ],
)  # fmt: skip
def test_what_is_written_reads_back_the_same(one, kept, facts, tmp_path):
    assert read_rule(written(one), "x.toml") == one
    kept.put(one, facts)
    both = kept.over(facts)
    assert both.diets[one.key] == one and kept.is_own(one.key) and not both.faults and one.key not in facts.diets
    assert with_rules(facts, tmp_path / "diets").diets[one.key] == one


def test_a_shipped_diet_keeps_its_place(kept, facts):
    with pytest.raises(CannotBe, match="shipped diet"):
        kept.put(rule(key="vegan", label="Mine"), facts)
    with pytest.raises(CannotBe, match="already"):
        kept.put(rule(label="VEGAN"), facts)
    kept._folder.mkdir(parents=True)
    (kept._folder / "mine.toml").write_text(written(rule(key="vegan", label="Anything goes", deny=(), allow=("egg",))))
    both = kept.over(facts)
    assert (
        both.diets["vegan"] == facts.diets["vegan"]
        and any("shipped diet has this key" in f for f in both.faults)
        and not kept.is_own("vegan")
    )


def test_a_diet_that_denies_nothing_or_names_what_is_not_there_is_refused(kept, facts):
    with pytest.raises(CannotBe, match="fit everything"):
        kept.put(rule(deny=()), facts)
    with pytest.raises(CannotBe, match="moon_jam"):
        kept.put(rule(allow=("moon_jam",)), facts)
    assert not kept._folder.exists()


def test_a_change_replaces_the_file_and_an_archive_keeps_it(kept, facts):
    kept.put(rule(), facts)
    kept.put(rule(caution="Changed."), kept.over(facts))
    assert kept.over(facts).diets["night_table"].caution == "Changed."
    assert len(list(kept._folder.iterdir())) == 1 and kept.revision == 2
    gone = kept.archive("night_table", kept.over(facts))
    assert gone.label == "Night table" and [p.name for p in kept._folder.iterdir()] == ["night_table.toml.away"]
    for call in (lambda: kept.remove("night_table"), lambda: kept.archive("never", facts)):
        with pytest.raises(NotKnown):
            call()


@pytest.mark.parametrize(
    ("data", "words"),
    [(b"\xff\xfe", "UTF-8"), (b"x" * (LARGEST + 1), "larger"), (b"a = " + b"[" * 5000, "nested|line"), (b"key = 3", "key")],
)
def test_a_file_that_is_no_diet_is_named_and_the_rest_works(data, words, kept, facts):
    kept._folder.mkdir(parents=True)
    (kept._folder / "bad.toml").write_bytes(data)
    (kept._folder / "good.toml").write_text(written(rule()))
    both = kept.over(facts)
    assert "night_table" in both.diets and len(both.faults) == 1 and both.faults[0].startswith("bad.toml")


def test_what_is_no_plain_file_is_not_read(tmp_path):
    (tmp_path / "folder.toml").mkdir()
    with pytest.raises((ValueError, OSError)):
        text_of(tmp_path / "folder.toml")


def test_a_kitchens_folder_adds_what_it_holds_and_names_what_it_cannot(tmp_path):
    for name, text in {
        "labels/oats.toml": 'id = "loft_oats"\nname = "loft oats"\nkind = "flour"\nkcal = 370\nfat_g = 7\nsaturates_g = 1\ncarbohydrate_g = 60\nsugars_g = 1\nfibre_g = 10\nprotein_g = 12\nsalt_g = 0',
        "labels/egg.toml": 'id = "egg"\nname = "egg"\nkind = "flour"\nkcal = 370\nfat_g = 7\nsaturates_g = 1\ncarbohydrate_g = 60\nsugars_g = 1\nfibre_g = 10\nprotein_g = 12\nsalt_g = 0',
        "packs.toml": '[in_use]\nloft_oats = "A"\n[[reading]]\ningredient = "loft_oats"\npack = "A"\nby = "O"\non = "2026-11-01"\n[[reading]]\ningredient = "moon"\npack = "B"\nby = "O"\non = "2026-11-01"',
        "profile.toml": "tbsp_ml = 20",
    }.items():  # fmt: skip
        path = tmp_path / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
    kitchen = load_kitchen(tmp_path)
    assert kitchen.profile.tbsp_ml == 20 and "loft_oats" in kitchen.facts.ingredients and set(kitchen.readings) == {"loft_oats"}
    assert any("egg" in f and "shipped" in f for f in kitchen.facts.faults) and any("moon" in f for f in kitchen.facts.faults)
    assert any(u.ingredient == "loft_oats" for u in kitchen.facts.craft.usages)
    assert load_kitchen(tmp_path / "nowhere").facts.faults == () and load_kitchen(None).readings == {}
