"""What the ledgers, the diets and the judging of a bowl tell is what stands in the books that people have read. Where it differs on purpose, `python -m tests.core.told`
writes them anew, and the difference is read before it is kept."""

import pytest

from .told import BATTERS_BOOK, BOWLS_BOOK, LINES_BOOK, batters, bowls, lines


@pytest.mark.parametrize(
    "path, book", [(BATTERS_BOOK, batters), (LINES_BOOK, lines), (BOWLS_BOOK, bowls)], ids=["batters", "lines", "bowls"]
)
def test_what_is_told_stands_in_the_book(path, book):
    kept, now = path.read_text(encoding="utf-8").split("\n"), list(book())
    at = ""
    for was, is_ in zip(kept, now, strict=False):
        at = is_ if is_.startswith("==") else at
        assert is_ == was, at
    assert len(now) == len(kept)
