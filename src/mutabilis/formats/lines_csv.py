"""The lines of a batter as CSV (RFC 4180): for a spreadsheet. A cell that a spreadsheet would run is escaped."""

import csv
import io
import math

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.kitchen_measures import measure
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines

from .shapes import MOST_LINES, Found, Unreadable, decoded

NOT_CARRIED = ("name, form, rest and note", "the family of versions", "when it was made and what came of it")
COLUMNS = ("text", "ingredient", "name", "grams", "low", "high", "measure", "place")
_RUNS = ("=", "+", "-", "@", "\t", "\r")


def read(data: bytes, facts: AllFacts, profile: Profile) -> tuple[Found, ...]:
    """One batter from its lines. Columns by name, in any order: `ingredient` with `grams`, or `text` as a cook writes it, or
    `name` with `grams`; a row that cannot be read is kept and marked."""
    text = decoded(data)
    first = text.lstrip().split("\n", 1)[0]
    try:
        rows = csv.DictReader(io.StringIO(text.lstrip()), delimiter=";" if first.count(";") > first.count(",") else ",", restkey="more")
        names = {(n or "").strip().lower(): n for n in rows.fieldnames or ()}
        if not {"text", "name", "ingredient"} & set(names):
            raise Unreadable("the first row names no column “text”, “ingredient” or “name”")
        lines: list[BatterLine] = []
        more = False
        for row in rows:
            if len(lines) >= MOST_LINES:
                more = True
                break
            lines += _row({k: unescaped(str(row.get(n) or "")).strip() for k, n in names.items()}, facts, profile)
    except csv.Error as error:
        raise Unreadable(f"not a CSV: {error}") from error
    if not lines:
        raise Unreadable("there is no row in it")
    left = (f"rows after the first {MOST_LINES}",) if more else ()
    return (Found("New batter", Batter(lines=tuple(lines[:MOST_LINES])), "", left),)


def _row(row: dict[str, str], facts: AllFacts, profile: Profile) -> list[BatterLine]:
    id_, text = row.get("ingredient", ""), row.get("text", "")
    grams, low, high = (_number(row.get(k, "")) for k in ("grams", "low", "high"))
    where, _, side = row.get("place", "").partition(":")
    place = "plate" if where.strip().lower() == "plate" else "batter"
    side = side.strip()[:60] if place == "plate" else ""
    if id_ in facts.ingredients and grams is not None:
        name = facts.ingredients[id_].name
        # What else the text says counts as it would if it were read: a row is never safer than its line.
        said = next((x for x in read_lines(text.replace("\n", " "), facts, profile) if x.ingredient == id_), None) if text else None
        beside = {k: getattr(said, k) for k in ("also", "maybe", "heard", "unread", "wished", "guessed")} if said else {}
        return [
            BatterLine(**beside, text=(text or f"{grams:g} g {name}")[:2000], ingredient=id_, grams=grams, low=grams if low is None else min(low, grams), high=grams if high is None else max(high, grams), where=place, side=side)
        ]  # fmt: skip
    if not text:
        name = row.get("name") or id_.replace("_", " ")
        text = f"{grams:g} g {name}" if grams is not None and name else name
    if not text.strip():
        return []
    return [
        line.model_copy(update={"where": "plate", "side": side}) if place == "plate" else line
        for line in read_lines(text.replace("\n", " "), facts, profile)
    ]


def _number(text: str) -> float | None:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        return None
    return value if math.isfinite(value) and 0 <= value <= 100_000 else None


def write(batter: Batter, facts: AllFacts, profile: Profile) -> bytes:
    """The lines, a row each, UTF-8 with the mark that spreadsheets look for."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for line in batter.lines:
        i = facts.ingredients.get(line.ingredient or "")
        cells = [
            line.text,
            line.ingredient or "",
            i.name if i else "",
            f"{line.grams:g}",
            f"{line.low:g}",
            f"{line.high:g}",
            measure(i, line.grams, profile) if i else "",
            f"{line.where}: {line.side}" if line.side else line.where,
        ]
        writer.writerow([escaped(cell) for cell in cells])
    return b"\xef\xbb\xbf" + out.getvalue().encode()


def escaped(cell: str) -> str:
    """A cell that no spreadsheet runs: one that begins like a formula is led by an apostrophe.

    >>> escaped("=1+1"), escaped("200 g flour"), unescaped(escaped("-x"))
    ("'=1+1", '200 g flour', '-x')
    """
    return f"'{cell}" if cell.lstrip(" ").startswith(_RUNS) else cell


def unescaped(cell: str) -> str:
    """The cell as it was before `escaped`."""
    return cell[1:] if cell.startswith("'") and cell[1:].lstrip(" ").startswith(_RUNS) else cell
