"""Labels on a sheet: one page, whatever is on them, and nothing of what matters is left out."""

import re
import zlib

import pytest

from mutabilis.formats import label_pdf

LABEL = (
    "Ridge rye cakes",
    "Made Mon 02 Mar 2026, 07:30 · use by Thu 05 Mar 2026, 07:30",
    "Contains: egg, milk, wheat",
    "4 pieces, cooked, in the fridge.",
)


def pages(pdf: bytes) -> int:
    return len(re.findall(rb"/Type /Page\b", pdf))


def drawn(pdf: bytes) -> int:
    """How many pieces of text stand on the pages."""
    streams = re.findall(rb"stream\r?\n(.*?)endstream", pdf, re.S)
    text = b""
    for s in streams:
        try:
            text += zlib.decompress(s)
        except zlib.error:
            continue
    return len(re.findall(rb"Tj", text))


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize("count", [1, 2, 3, 9])
def test_a_sheet_is_one_page(paper, count):
    pdf = label_pdf.write((LABEL,) * count, paper)
    assert pdf[:5] == b"%PDF-" and pages(pdf) == 1
    assert drawn(pdf) >= 4 * min(8, count * max(1, min(4, 8 // count)))


@pytest.mark.parametrize("name", ["x" * 500, "crêpes für die späte Runde ✨", "\x00\x07", "a " * 400])
def test_long_and_odd_words_stay_inside_their_label(name):
    assert pages(label_pdf.write(((name, *LABEL[1:]),))) == 1


def test_nothing_to_label_is_refused():
    with pytest.raises(ValueError, match="nothing to label"):
        label_pdf.write(())
