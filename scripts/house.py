"""The house as a picture, drawn from the code: what stands on what, how large each room is, and who asks whom."""

import ast
import sys
import tomllib
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).parents[1]
PACKAGE = ROOT / "src/mutabilis"
PICTURE = ROOT / "docs/house.svg"
WIDE, ROW, GAP, LEFT = 1120, 74, 26, 150
OUTER = (("cli",), ("api",), ("demo",), ("store", "formats", "devices"), ("data",))


def layers() -> list[tuple[str, ...]]:
    """The rooms from the top to the ground: those around the core, then those in it, as the import contracts have them."""
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["tool"]["importlinter"]["contracts"]
    inside = next(c["layers"] for c in contracts if "containers" in c)
    return [*OUTER, *(tuple(f"core.{name.strip()}" for name in row.split("|")) for row in inside)]


def room_of(path: Path) -> str:
    """The room that a file stands in."""
    first, *rest = path.relative_to(PACKAGE).with_suffix("").parts
    if first == "core":
        return f"core.{rest[0]}"
    return "cli" if first.startswith("cli") else first


def asked(path: Path) -> set[str]:
    """The rooms that a file imports from."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if not isinstance(node, ast.ImportFrom) or not (node.level or (node.module or "").startswith("mutabilis")):
            continue
        if node.level:
            parts = [*path.relative_to(PACKAGE).parts[: -node.level], *(node.module or "").split(".")]
        else:
            parts = (node.module or "").split(".")[1:]
        parts = [p for p in parts if p]
        if parts and parts[0] == "core" and len(parts) > 1:
            found.add(f"core.{parts[1]}")
        elif parts and parts[0] != "core":
            found.add(parts[0])
    return found - {room_of(path)}


def draw() -> str:
    """The picture, SVG."""
    lines: Counter[str] = Counter()
    files: Counter[str] = Counter()
    arrows: Counter[tuple[str, str]] = Counter()
    for path in sorted(PACKAGE.rglob("*.py")):
        room = room_of(path)
        lines[room] += sum(1 for line in path.read_text(encoding="utf-8").splitlines() if line.strip())
        files[room] += path.name != "__init__.py"
        for other in asked(path):
            arrows[room, other] += 1
    rows = layers()
    place: dict[str, tuple[float, float, float]] = {}
    for n, row in enumerate(rows):
        wides = [max(110.0, 60 + lines[r] ** 0.6 * 4.2) for r in row]
        fit = min(1.0, (WIDE - LEFT - GAP * (len(row) - 1)) / sum(wides))
        x = float(LEFT)
        for r, wide in zip(row, wides, strict=True):
            place[r] = (x, 30 + n * ROW, wide * fit)
            x += wide * fit + GAP
    high = 30 + len(rows) * ROW
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE + 20} {high + 10}" font-family="sans-serif" font-size="14">',
        f'<rect width="{WIDE + 20}" height="{high + 10}" fill="#fbf8f2"/>',
        f'<rect x="8" y="{24 + len(OUTER) * ROW - 6}" width="{WIDE + 4}" height="{high - len(OUTER) * ROW - 24}" rx="8" fill="#f0eadc"/>',
        f'<text x="20" y="{24 + len(OUTER) * ROW + 22}" font-weight="bold">the core</text>',
    ]
    for (a, b), n in sorted(arrows.items()):
        if a in place and b in place:
            (x1, y1, w1), (x2, y2, w2) = place[a], place[b]
            bend = (y1 + 44 + y2) / 2
            out.append(
                f'<path d="M{x1 + w1 / 2:.0f} {y1 + 44:.0f}C{x1 + w1 / 2:.0f} {bend:.0f} {x2 + w2 / 2:.0f} {bend:.0f} {x2 + w2 / 2:.0f} {y2:.0f}"'
                f' fill="none" stroke="#7a5c3a" stroke-opacity="0.28" stroke-width="{min(6.0, 0.8 + 0.35 * n):.1f}"/>'
            )
    for room, (x, y, wide) in place.items():
        name = room.removeprefix("core.")
        told = f"{files[room]} files, {lines[room]} lines" if files[room] > 1 else f"{lines[room]} lines"
        out.append(f'<rect x="{x:.0f}" y="{y:.0f}" width="{wide:.0f}" height="44" rx="5" fill="#fff" stroke="#3b2c1c"/>')
        out.append(
            f'<text x="{x + 10:.0f}" y="{y + 19:.0f}" font-weight="bold">{name}</text><text x="{x + 10:.0f}" y="{y + 36:.0f}" font-size="12">{told}</text>'
        )
    return "\n".join([*out, "</svg>", ""])


def main() -> int:
    """Write the picture."""
    PICTURE.write_text(draw(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
