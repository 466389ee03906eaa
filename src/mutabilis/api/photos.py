"""Photographs of batches: taken in, shown, taken away."""

from typing import Annotated

from fastapi import APIRouter, Path, Request, Response

from mutabilis.core.errors import CannotBe
from mutabilis.formats.photo import NoPhoto, readied
from mutabilis.store.photos import Kept

from .context import PROBLEMS, Here
from .workers import apart

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["journal"])
BatchId = Annotated[str, Path(max_length=40)]
PhotoId = Annotated[str, Path(pattern=r"^[0-9a-f]{32}$")]
BODY = {"requestBody": {"required": True, "content": {"image/*": {"schema": {"type": "string", "format": "binary"}}}}}


@router.post("/journal/batches/{batch_id}/photos", openapi_extra=BODY)
async def put_photo(batch_id: BatchId, request: Request, here: Here) -> tuple[Kept, ...]:
    """Keep a photograph of a batch: turned upright, made smaller, and without whatever the camera noted beside it."""
    here.stove.batch(batch_id)
    data = await request.body()

    def keep() -> tuple[Kept, ...]:
        try:
            p = readied(data)
        except NoPhoto as error:
            raise CannotBe(str(error)) from None
        here.photos.put(batch_id, p.whole, p.small, p.width, p.height)
        return here.photos.of(batch_id)

    return await apart(keep)


@router.delete("/journal/batches/{batch_id}/photos/{photo_id}")
def remove_photo(batch_id: BatchId, photo_id: PhotoId, here: Here, back: bool = False) -> tuple[Kept, ...]:
    """Take a photograph away, or put it back."""
    here.photos.away(batch_id, photo_id, back)
    return here.photos.of(batch_id)


@router.get("/photos/{photo_id}.jpg", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}})
def photo(photo_id: PhotoId, here: Here, small: bool = False) -> Response:
    """A photograph, whole or small."""
    return Response(here.photos.data(photo_id, small), media_type="image/jpeg", headers={"cache-control": "private, max-age=86400"})
