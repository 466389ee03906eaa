"""The facts kept beside the compiled modules: found only where nothing they were made from has changed, and never needed."""

import hashlib
import pickle

from mutabilis.data.compiled import fingerprint, kept


def test_a_kept_copy_is_used_until_anything_changes(tmp_path):
    package, folder = tmp_path / "package", tmp_path / "kept"
    package.mkdir()
    (package / "rows.csv").write_text("flour,1")
    made = []

    def build():
        made.append(1)
        return (package / "rows.csv").read_text()

    assert [kept(build, folder, package) for _ in range(3)] == ["flour,1"] * 3 and len(made) == 1
    (package / "rows.csv").write_text("flour,2")
    assert kept(build, folder, package) == "flour,2" and len(made) == 2
    (package / "rule.py").write_text("x = 1")  # a rule that reads them is a part of them
    kept(build, folder, package)
    assert len(made) == 3 and len(list(folder.iterdir())) == 1  # what is out of date is taken away


def test_a_damaged_copy_or_a_folder_that_takes_nothing_costs_only_time(tmp_path):
    package, folder = tmp_path / "package", tmp_path / "kept"
    package.mkdir()
    kept(lambda: "whole", folder, package)
    kept_file = next(folder.iterdir())
    right = kept_file.read_bytes()
    other = right.replace(b"whole", b"whale")  # still reads, and is wrong
    assert other != right
    for damage in (
        b"",
        b"\x80",
        right[:-3],
        other,
        hashlib.sha256(b"cmutabilis.nowhere\nThing\n.").digest() + b"cmutabilis.nowhere\nThing\n.",
    ):
        kept_file.write_bytes(damage)
        assert kept(lambda: "whole", folder, package) == "whole"
    no_folder = tmp_path / "a file"
    no_folder.write_text("")
    assert kept(lambda: "whole", no_folder, package) == "whole"


def test_a_name_that_moves_is_another_fingerprint(tmp_path):
    for name in ("a", "b"):
        (tmp_path / name).mkdir()
    (tmp_path / "a" / "x.toml").write_text("k = 1")
    (tmp_path / "b" / "y.toml").write_text("k = 1")
    assert fingerprint(tmp_path / "a") != fingerprint(tmp_path / "b")


def test_what_is_kept_says_what_was_read(facts):
    """A batter read by facts from a copy and by facts fresh from the tables is the same batter."""
    from mutabilis.core.measures.profile import Profile
    from mutabilis.core.reading.reading import read_lines
    from mutabilis.data import read_facts

    text = (
        "200 g plain flour\n1 flax egg\n250 ml semi skimmed milk\n1 heaped tsp baking powder, sifted\n2 tbsp walnut butter or almond butter"
    )
    assert read_lines(text, read_facts(), Profile()) == read_lines(text, pickle.loads(pickle.dumps(facts)), Profile())
