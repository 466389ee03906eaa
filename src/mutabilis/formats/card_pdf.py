"""The recipe card as a PDF of one page, A4 or letter, black on white, its weights in the ink of the side that the batter is of."""

import logging
import re
import unicodedata
from datetime import date
from importlib.resources import as_file, files
from typing import Literal

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from mutabilis.core.diets.allergens import in_words
from mutabilis.core.measures.profile import Profile
from mutabilis.core.recipe.card import Card

Paper = Literal["a4", "letter"]
MARGIN_MM = 14.0
MADE, HAD = (
    (74, 45, 150),
    (63, 76, 85),
)  # the ink of a batter made for guests, and of one as it was: dark enough for a printer of black alone
_WORDS = {"fits": "fits", "conflicts": "NOT", "cannot_vouch": "NOT CONFIRMED"}
_PLAIN = {"→": "->", "≈": "~", "≤": "<=", "≥": ">=", "⅓": " 1/3", "⅔": " 2/3", "⅛": " 1/8", "\u2009": " ", "\u202f": " "}
# Subsetting a font is told line by line on the log, which is of no use to a cook.
logging.getLogger("fontTools").setLevel(logging.ERROR)
logging.getLogger("fpdf").setLevel(logging.ERROR)


def write(card: Card, profile: Profile, paper: Paper = "a4", on: date | None = None) -> bytes:
    """The card on one page: the type shrinks until it fits; a card that would be unreadable small takes a second page."""
    for size in (10.5, 9.8, 9.1, 8.4, 7.7, 7.0):
        pdf = _page(card, profile, paper, size, on)
        if pdf.page_no() == 1:
            return bytes(pdf.output())
    return bytes(_page(card, profile, paper, 8.4, on).output())


class Paged(FPDF):
    """A document in the bundled face."""

    def plain(self, text: str) -> str:
        """Text in what the bundled face can draw; a letter that it cannot is told as a box, never left out."""
        out = []
        for c in unicodedata.normalize("NFC", text):
            c = _PLAIN.get(c, c)
            if all(ord(x) in self.known for x in c):
                out.append(c)
            else:
                bare = "".join(x for x in unicodedata.normalize("NFKD", c) if ord(x) in self.known)
                out.append(bare or "¤")
        return re.sub(r"[\x00-\x1f]+", " ", "".join(out))

    known: frozenset[int] = frozenset()


def fresh(paper: Paper, title: str) -> Paged:
    """A document of one empty page in the bundled face."""
    pdf = Paged(format=paper)
    pdf.set_creator("Mutabilis")
    pdf.set_margins(MARGIN_MM, MARGIN_MM)
    pdf.set_auto_page_break(True, MARGIN_MM)
    fonts = files(__package__).joinpath("fonts")
    for name, style in (("text", ""), ("bold", "B")):
        with as_file(fonts.joinpath(f"{name}.ttf")) as path:
            pdf.add_font("card", style, path)
    pdf.known = frozenset(pdf.fonts["card"].cmap)  # type: ignore[union-attr]
    pdf.set_title(pdf.plain(title))
    pdf.add_page()
    return pdf


def _page(card: Card, profile: Profile, paper: Paper, size: float, on: date | None) -> Paged:
    pdf = fresh(paper, card.name)
    line = size * 0.46
    _head(pdf, card, profile, size, line, on)
    top = pdf.get_y()
    left = (pdf.epw - 8) * 0.43
    _ingredients(pdf, card, profile, size, line, left)
    below = (pdf.page_no(), pdf.get_y())
    if pdf.page_no() == 1:
        pdf.set_xy(MARGIN_MM + left + 8, top)
    pdf.set_left_margin(MARGIN_MM + left + 8)
    _steps(pdf, card, size, line)
    pdf.set_left_margin(MARGIN_MM)
    if (pdf.page_no(), pdf.get_y()) < below:
        pdf.set_y(below[1])
    _foot(pdf, card, profile, size * 0.93, line * 0.93)
    return pdf


def _head(pdf: Paged, card: Card, profile: Profile, size: float, line: float, on: date | None) -> None:
    pdf.set_font("card", "B", size * 1.9)
    pdf.multi_cell(0, line * 1.9, pdf.plain(card.name), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_font("card", "", size)
    last = " and a small one" if card.last_share >= 0.1 else ""
    about = f"{card.form_label}, {card.batter_g:.0f} g of batter: {card.pieces} pieces of {card.portion_ml:.0f} mL{last}. Serves {card.servings:.3g}. Use a bowl of at least {card.bowl_l:g} L."
    pdf.multi_cell(0, line, pdf.plain(profile.told(about) + (f" {on.isoformat()}." if on else "")), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    if card.largest:
        pdf.multi_cell(0, line, pdf.plain(card.largest), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    if card.verdicts:
        pdf.set_font("card", "B", size)
        said = "; ".join(f"{_WORDS[v.verdict]} {v.label.lower()}" + (f" ({v.reason})" if v.reason else "") for v in card.verdicts)
        pdf.multi_cell(0, line, pdf.plain(said[:1].upper() + said[1:] + "."), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    if card.note:
        pdf.set_font("card", "", size)
        pdf.multi_cell(0, line, pdf.plain(card.note[:600]), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.ln(line * 0.4)
    pdf.line(MARGIN_MM, pdf.get_y(), pdf.w - MARGIN_MM, pdf.get_y())
    pdf.ln(line * 0.5)


def _ingredients(pdf: Paged, card: Card, profile: Profile, size: float, line: float, width: float) -> None:
    for group in card.groups:
        pdf.set_font("card", "B", size)
        pdf.cell(width, line * 1.15, pdf.plain(group.title), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        for row in group.lines:
            grams = f"{shown_grams(row.grams, profile)} g"
            first, second = (row.measure, grams) if profile.shown == "kitchen" and row.measure else (grams, row.measure)
            beside = "; ".join(x for x in (second if profile.shown == "both" else "", row.note, row.parts) if x)
            pdf.set_font("card", "B", size)
            wide = 22.0 if profile.shown == "kitchen" else 15.0
            pdf.set_text_color(*(MADE if card.verdicts else HAD))
            pdf.cell(wide, line, pdf.plain(first), align="R")
            pdf.set_text_color(0)
            pdf.set_x(MARGIN_MM + wide + 2)
            pdf.set_font("card", "", size)
            pdf.multi_cell(
                width - wide - 2,
                line,
                pdf.plain(row.name + (f" ({beside})" if beside else "")),
                align="L",
                new_x=XPos.LMARGIN,
                new_y=YPos.NEXT,
            )
        pdf.ln(line * 0.35)
    for text in card.unread:
        pdf.multi_cell(width, line, pdf.plain(f"NOT READ: {text[:120]}"), align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)


def _steps(pdf: Paged, card: Card, size: float, line: float) -> None:
    for n, step in enumerate(card.steps, 1):
        pdf.set_font("card", "B", size)
        minutes = f" · {step.minutes:.0f} min" if step.minutes else ""
        pdf.multi_cell(0, line, pdf.plain(f"{n}  {step.title}{minutes}"), align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        pdf.set_font("card", "", size)
        pdf.multi_cell(0, line, pdf.plain(f"{step.text} {step.why}".strip()), align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        pdf.ln(line * 0.25)


def _foot(pdf: Paged, card: Card, profile: Profile, size: float, line: float) -> None:
    pdf.ln(line * 0.3)
    pdf.line(MARGIN_MM, pdf.get_y(), pdf.w - MARGIN_MM, pdf.get_y())
    pdf.ln(line * 0.4)
    said = [("Contains", ", ".join(map(in_words, card.contains)) or "none of the listed allergens")]
    if card.may_contain:
        said.append(("May contain", ", ".join(map(in_words, card.may_contain))))
    n = card.per_piece
    if n:
        said.append(("A piece", profile.told(nutrition_words(n))))
    if card.per_piece_plate:
        said.append(("With the plate", profile.told(nutrition_words(card.per_piece_plate))))
    if card.leftovers:
        said.append(("Left over", " ".join(card.leftovers)))
    said.append(("Mind", " ".join(card.cautions)))
    for title, text in said:
        pdf.set_font("card", "B", size)
        pdf.write(line, pdf.plain(f"{title}: "))
        pdf.set_font("card", "", size)
        pdf.write(line, pdf.plain(text))
        pdf.ln(line * 1.05)


def shown_grams(grams: float, profile: Profile) -> str:
    """Grams as a scale shows them, in the kitchen's number format."""
    text = f"{grams:.0f}" if grams >= 9.95 else f"{grams:.1f}" if grams >= 0.495 else f"{grams:.2f}"
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return text.replace(".", ",") if profile.decimal == "comma" else text


def nutrition_words(n: dict[str, float]) -> str:
    """Nutrients of a piece in words."""
    return (
        f"{n['kcal']:.0f} kcal, fat {n['fat_g']:.1f} g ({n['sat_fat_g']:.1f} g saturated), carbohydrate {n['carb_g']:.1f} g, fibre {n['fibre_g']:.1f} g,"
        f" sugars {n['sugars_g']:.1f} g, net carbohydrate {n['net_carb_g']:.1f} g, protein {n['protein_g']:.1f} g, sodium {n['sodium_mg']:.0f} mg"
    )
