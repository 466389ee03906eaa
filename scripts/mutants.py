"""How many small faults the tests notice: puts them in, one at a time, and writes the score into docs/figures.md."""

import json
import re
import subprocess
import sys
from pathlib import Path

FIGURES = Path("docs/figures.md")
MARK = "<!-- mutants -->"


def main() -> int:
    """Run the mutation tester over what is named in pyproject.toml, count, and write the score down. It takes hours."""
    subprocess.run([sys.executable, "-m", "mutmut", "run", "--max-children", "2", *sys.argv[1:]], check=False)
    killed, lived = count(Path("mutants"))
    text = told(killed, lived)
    FIGURES.write_text(
        re.sub(rf"{MARK}.*?{MARK}", lambda _: f"{MARK}\n{text}\n{MARK}", FIGURES.read_text(encoding="utf-8"), flags=re.DOTALL), "utf-8"
    )
    print(text)
    return 0


def count(folder: Path) -> tuple[dict[str, int], dict[str, list[str]]]:
    """By module: how many faults were noticed, and the names of those that were not."""
    killed: dict[str, int] = {}
    lived: dict[str, list[str]] = {}
    for path in sorted(folder.rglob("*.meta")):
        module = str(path.relative_to(folder)).removesuffix(".py.meta").removeprefix("src/mutabilis/core/")
        for name, code in json.loads(path.read_text())["exit_code_by_key"].items():
            if code in (1, 3, 24, 36, 152, 255):  # a test failed, or the tests took too long
                killed[module] = killed.get(module, 0) + 1
            elif code in (0, 33):  # all passed, or no test comes this way
                lived.setdefault(module, []).append(name)
    return killed, lived


def told(killed: dict[str, int], lived: dict[str, list[str]]) -> str:
    """The score as a table, module by module."""
    rows = ["| module | faults | noticed |", "|---|---|---|"]
    for module in sorted({*killed, *lived}):
        k, n = killed.get(module, 0), killed.get(module, 0) + len(lived.get(module, []))
        rows.append(f"| {module} | {n} | {100 * k / n:.0f} % |")
    k, n = sum(killed.values()), sum(killed.values()) + sum(map(len, lived.values()))
    return "\n".join([*rows, f"| **all** | **{n}** | **{100 * k / max(1, n):.0f} %** |"])


if __name__ == "__main__":
    sys.exit(main())
