"""One server for one book: a lock that lives as long as the server does, and says where it runs."""

import fcntl
import os
from contextlib import suppress
from pathlib import Path

from .database import StoreError


class BookLock:
    """Held from entering to leaving, or until the process ends, however it ends. StoreError where another process holds it."""

    def __init__(self, book: Path, says: str = "") -> None:
        self._path = book.with_name(f"{book.name}.lock")
        self._says = says
        self._handle = -1

    def __enter__(self) -> "BookLock":
        while True:
            self._handle = os.open(self._path, os.O_RDWR | os.O_CREAT, 0o600)
            try:
                fcntl.flock(self._handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError as error:
                where = os.read(self._handle, 300).decode("utf-8", "replace").strip()
                os.close(self._handle)
                raise StoreError(f"This book is open already: {where or 'another program holds it'}. Close that one first.") from error
            with suppress(OSError):
                if os.fstat(self._handle).st_ino == self._path.stat().st_ino:
                    break
            os.close(self._handle)  # it was taken away between opening and locking: once more
        self.say(self._says)
        return self

    def say(self, where: str) -> None:
        """Tell whoever comes next where this one runs."""
        os.ftruncate(self._handle, 0)
        os.pwrite(self._handle, where.encode(), 0)

    def __exit__(self, *_: object) -> None:
        with suppress(OSError):
            self._path.unlink()
        os.close(self._handle)
