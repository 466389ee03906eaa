"""Photographs: decoded, turned upright, made smaller and written anew, so that nothing of what a camera notes beside the picture is kept."""

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

LARGEST = 20_000_000  # bytes that come in
MOST_PIXELS = 50_000_000
WHOLE_PX, SMALL_PX, QUALITY = 1600, 320, 80
KINDS = ("JPEG", "PNG", "WEBP", "TIFF", "BMP", "GIF")


class NoPhoto(ValueError):
    """Not a photograph that can be kept; its text says why."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Photo:
    """A photograph as it is kept: JPEG, at most 1600 px on its longer side, and a small one of 320; neither has any metadata."""

    width: int
    height: int
    whole: bytes
    small: bytes


def readied(data: bytes) -> Photo:
    """A photograph from the bytes of a file. NoPhoto where it is none, or larger than can be taken (20 MB, 50 megapixels)."""
    if len(data) > LARGEST:
        raise NoPhoto(f"larger than a photo can be ({LARGEST // 1_000_000} MB)")
    Image.init()  # what is not asked for at first knows but half of these
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what is too large is refused by its size below
            with Image.open(io.BytesIO(data), formats=KINDS) as picture:
                if picture.width * picture.height > MOST_PIXELS:
                    raise NoPhoto(
                        f"{picture.width} × {picture.height} points are more than can be taken ({MOST_PIXELS // 1_000_000} megapixels)"
                    )
                picture.draft("RGB", (WHOLE_PX, WHOLE_PX))
                upright = ImageOps.exif_transpose(picture)
                plain = Image.new("RGB", upright.size, "white")
                shown = upright.convert("RGBA")
                plain.paste(shown, mask=shown.getchannel("A"))
    except NoPhoto:
        raise
    except UnidentifiedImageError:
        raise NoPhoto("this is no photo that can be read: JPEG, PNG or WebP is") from None
    except (OSError, ValueError, SyntaxError, MemoryError, Image.DecompressionBombError) as error:
        raise NoPhoto("this photo is damaged and cannot be read") from error
    plain.thumbnail((WHOLE_PX, WHOLE_PX))
    small = plain.copy()
    small.thumbnail((SMALL_PX, SMALL_PX))
    return Photo(width=plain.width, height=plain.height, whole=_jpeg(plain), small=_jpeg(small))


def _jpeg(picture: Image.Image) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()
