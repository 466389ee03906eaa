"""The facts as they are once read, kept beside the compiled modules so that a command starts without reading every table again.

A kept copy is found by a hash of everything it was made from (every file of the package, the interpreter, the libraries), so it cannot
go stale: a changed row has another hash. It is trusted as far as the compiled modules beside it are.
"""

import contextlib
import gc
import hashlib
import os
import pickle
import sys
from collections.abc import Callable
from importlib import metadata
from pathlib import Path
from typing import TypeVar

T = TypeVar("T")
PACKAGE = Path(__file__).parents[1]
KEPT_IN = Path(__file__).parent / "__pycache__"
DIGEST = hashlib.sha256().digest_size  # before the copy stands its own hash: a damaged one could be read as other facts
SUFFIXES = (".py", ".toml", ".csv")


def kept(build: Callable[[], T], folder: Path = KEPT_IN, package: Path = PACKAGE) -> T:
    """What `build` makes of the package's files: from the copy kept in `folder` where there is one of just these files, else made
    and kept. A folder that cannot be written to only costs the time."""
    path = folder / f"facts-{fingerprint(package)}.pickle"
    with contextlib.suppress(OSError, pickle.UnpicklingError, AttributeError, ImportError):
        data = path.read_bytes()
        if hashlib.sha256(data[DIGEST:]).digest() != data[:DIGEST]:
            raise pickle.UnpicklingError("damaged")
        collecting = gc.isenabled()
        gc.disable()  # tens of thousands of new objects, none of them garbage
        try:
            found: T = pickle.loads(memoryview(data)[DIGEST:])
            return found
        finally:
            if collecting:
                gc.enable()
    made = build()
    with contextlib.suppress(OSError):
        folder.mkdir(exist_ok=True)
        fresh = path.with_suffix(f".{os.getpid()}")
        data = pickle.dumps(made, pickle.HIGHEST_PROTOCOL)
        fresh.write_bytes(hashlib.sha256(data).digest() + data)
        fresh.replace(path)
        for old in folder.glob("facts-*.pickle"):
            if old != path:
                old.unlink(missing_ok=True)
    return made


def fingerprint(package: Path) -> str:
    """A hash of every source and table under `package`, by name and content, and of what reads them."""
    told = hashlib.sha256(f"{sys.version} {metadata.version('pydantic')}".encode())
    for path in sorted(p for p in package.rglob("*") if p.suffix in SUFFIXES and p.is_file()):
        told.update(str(path.relative_to(package)).encode() + b"\0")
        told.update(path.read_bytes())
    return told.hexdigest()[:32]
