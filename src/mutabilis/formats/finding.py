"""Which format a file is in, by what stands in it; its name only helps where that leaves a doubt."""

from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile

from . import json_ld, lines_csv, markdown, plain_text
from .shapes import Found, Unreadable, decoded


def recipes(data: bytes, filename: str, facts: AllFacts, profile: Profile) -> tuple[str, tuple[Found, ...]]:
    """The format's name and every recipe in a file. Unreadable, in plain words, where there is none."""
    if not data.strip():
        raise Unreadable("the file is empty")
    if data.startswith(b"SQLite format 3\0"):
        raise Unreadable("it is a whole book, no recipe: put it back as a backup, in the Kitchen")
    if data[:4] in (b"PK\x03\x04", b"%PDF", b"\x89PNG") or data[:3] == b"\xff\xd8\xff":
        raise Unreadable("not a text: save the recipe as a web page, text, CSV or JSON first")
    text = decoded(data)
    head, ending = text.lstrip()[:3000], filename.lower().rsplit(".", 1)[-1]
    if head.startswith(("{", "[")) or (head.startswith("<") and ending not in ("md", "txt", "csv")):
        return "JSON-LD", json_ld.read(data, facts, profile)
    first = head.split("\n", 1)[0].lower()
    if ending == "csv" or ("," in first and any(c in first.replace('"', "").split(",") for c in ("text", "ingredient"))):
        return "CSV", lines_csv.read(data, facts, profile)
    if ending in ("md", "markdown") or head.startswith("# "):
        return "Markdown", markdown.read(data, facts, profile)
    return "text", plain_text.read(data, facts, profile)
