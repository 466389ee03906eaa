"""Photographs for tests, made up as they are asked for."""

import io

from PIL import Image


def picture(size=(200, 100), kind="JPEG", turned=False, mode="RGB"):
    """A photo, red on its left and blue on its right, with a place and a name in its notes; all of one colour in another mode."""
    made = Image.new(mode, size, (250, 20, 20) if mode == "RGB" else 0)
    if mode == "RGB":
        made.paste((20, 20, 250), (size[0] // 2, 0, *size))
    notes = Image.Exif()
    notes[0x0112] = 6 if turned else 1
    notes[0x010E] = "Here I live"
    notes.get_ifd(0x8825)[2] = (52.0, 5.0, 0.0)
    out = io.BytesIO()
    made.save(out, kind, **({"exif": notes} if kind == "JPEG" else {}))
    return out.getvalue()
