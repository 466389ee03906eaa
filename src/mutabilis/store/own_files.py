"""Reading a file that a kitchen put beside its book: never more than such a file can be, and nothing that is no plain file."""

import os
import stat
import tomllib
from pathlib import Path
from typing import Any

LARGEST = 200_000  # bytes; a diet of a hundred clauses has a tenth of it


def text_of(path: Path) -> str:
    """The text of a plain file. ValueError where it is none, or far too large, or no text; OSError where it cannot be read."""
    # Opened without waiting, so that a pipe that nobody writes to holds nothing up; then looked at, not the other way round.
    handle = os.open(path, os.O_RDONLY | getattr(os, "O_NONBLOCK", 0))
    try:
        if not stat.S_ISREG(os.fstat(handle).st_mode):
            raise ValueError(f"{path.name}: not a plain file")
        data = os.read(handle, LARGEST + 1)
    finally:
        os.close(handle)
    if len(data) > LARGEST:
        raise ValueError(f"{path.name}: larger than {LARGEST // 1000} kB")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError as error:
        raise ValueError(f"{path.name}: not UTF-8 text") from error


def toml_of(path: Path) -> dict[str, Any]:
    """A plain TOML file, read. ValueError or OSError as above, or where it is nested beyond reason."""
    try:
        return tomllib.loads(text_of(path))
    except RecursionError as error:
        raise ValueError(f"{path.name}: nested too deeply") from error
