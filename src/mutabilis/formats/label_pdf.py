"""Labels for what is kept, on one sheet of A4 or letter: name, what, when made, use by, allergens, how it comes back."""

from typing import cast

from mutabilis.core.errors import CannotBe

from .card_pdf import MARGIN_MM, Paged, Paper, fresh

ACROSS, DOWN, GAP_MM = 2, 4, 4.0
SIZES = (15.0, 11.0, 11.0, 9.0)


def write(labels: tuple[tuple[str, ...], ...], paper: Paper = "a4", copies: int = 4) -> bytes:
    """One sheet with `copies` of each label as far as they fit; each label is its lines, the largest first. CannotBe where there is none."""
    if not labels:
        raise CannotBe("there is nothing to label")
    pdf = fresh(paper, "Labels")
    wide = (pdf.epw - GAP_MM * (ACROSS - 1)) / ACROSS
    high = (pdf.eph - GAP_MM * (DOWN - 1)) / DOWN
    each = max(1, min(copies, ACROSS * DOWN // len(labels)))
    places = [label for label in labels for _ in range(each)][: ACROSS * DOWN]
    for n, label in enumerate(places):
        row, column = divmod(n, ACROSS)
        _one(pdf, label, MARGIN_MM + column * (wide + GAP_MM), MARGIN_MM + row * (high + GAP_MM), wide, high)
    return bytes(pdf.output())


def _one(pdf: Paged, lines: tuple[str, ...], x: float, y: float, wide: float, high: float) -> None:
    pdf.rect(x, y, wide, high)
    top = y + 3
    for n, line in enumerate(lines):
        size = SIZES[min(n, len(SIZES) - 1)]
        pdf.set_font("card", "B" if n < 3 else "", size)
        room = max(1, int((y + high - 2 - top) / (size * 0.42)))
        wrapped = cast(list[str], pdf.multi_cell(wide - 6, size * 0.42, pdf.plain(line), dry_run=True, output="LINES"))
        shown = wrapped[:room]
        if len(wrapped) > room and shown:
            shown[-1] = shown[-1][:-1].rstrip() + "…"
        for part in shown:
            pdf.set_xy(x + 3, top)
            pdf.cell(wide - 6, size * 0.42, part)
            top += size * 0.42
        top += 1.2
