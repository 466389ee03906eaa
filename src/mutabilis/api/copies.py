"""Copies of the book: those that are kept by themselves, a backup to take along, and the way back."""

import os
import tempfile
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from mutabilis.core.errors import NotKnown
from mutabilis.store import copies as kept

from .context import PROBLEMS, Context, Here

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["copies"])
BACKUP = "application/vnd.sqlite3"


@dataclass(frozen=True, slots=True, kw_only=True)
class CopiesView:
    """The copies kept, the newest first; the book's own size [bytes], how many photographs are in it and what they weigh [bytes], and what is
    wrong with it where it is damaged."""

    copies: tuple[kept.Copy, ...]
    size: int
    photos: int
    photo_bytes: int
    damage: str


@dataclass(frozen=True, slots=True)
class Restored:
    """What became of a restore: the copy that was made of the book before."""

    before: str


@router.get("/copies")
def copies(here: Here) -> CopiesView:
    """The copies that are kept of this book."""
    path = here.database.path
    photos, weight = (0, 0) if here.database.damage else here.photos.weight()
    size = path.stat().st_size if path.is_file() else 0
    return CopiesView(copies=kept.copies(path), size=size, photos=photos, photo_bytes=weight, damage=here.database.damage)


@router.post("/copies", status_code=201)
def copy_now(here: Here) -> CopiesView:
    """Make a copy now, beside those of the days."""
    kept.keep_copy(here.database, "asked for")
    return copies(here)


@router.get("/backup", response_class=FileResponse)
def backup(here: Here, name: str = "") -> FileResponse:
    """The whole book as one file, also while it is written to; or one of the copies that are kept."""
    if name:
        found = next((c for c in kept.copies(here.database.path) if c.name == name), None)
        if found is None:
            raise NotKnown(name)
        return FileResponse(kept.folder_of(here.database.path) / found.name, media_type=BACKUP, headers=_as_file(found.name))
    handle, path = tempfile.mkstemp(suffix=".sqlite3")
    os.close(handle)
    kept.write_backup(here.database.path, Path(path))
    return FileResponse(path, media_type=BACKUP, headers=_as_file("mutabilis-backup.sqlite3"), background=BackgroundTask(os.unlink, path))


def _as_file(name: str) -> dict[str, str]:
    return {"content-disposition": f"attachment; filename*=UTF-8''{quote(name, safe='')}"}


@router.post(
    "/restore", openapi_extra={"requestBody": {"content": {BACKUP: {"schema": {"type": "string", "format": "binary"}}}, "required": True}}
)
async def restore(request: Request, here: Here, name: str = "") -> Restored:
    """Put a backup in the place of this book: one that is sent, or by its name one of the copies that are kept. The book as it was is
    copied first, so that this too can be taken back."""
    if name:
        if not any(c.name == name for c in kept.copies(here.database.path)):
            raise NotKnown(name)
        return await run_in_threadpool(_restored, here, kept.folder_of(here.database.path) / name)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "The file"  # by this name it is spoken of where it is no book
        with path.open("wb") as file:
            async for chunk in request.stream():
                file.write(chunk)
        return await run_in_threadpool(_restored, here, path)


def _restored(here: Context, path: Path) -> Restored:
    before = kept.put_into(here.database, path)
    here.anew()
    return Restored(before.name if before else "")


@router.get("/salvage", response_class=Response)
def salvage(here: Here) -> Response:
    """What can still be read of a damaged book, as our own JSON; what could not be read is counted in its `told`."""
    from .exchange import whole_book

    return whole_book(here)
