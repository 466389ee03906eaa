"""A photograph for the demo: a plate of cakes from above, drawn with a seeded die. Nobody took it anywhere."""

import io
import random

from PIL import Image, ImageDraw, ImageFilter

SIDE = 900


def plate(seed: int, pieces: int, brown: float) -> bytes:
    """A JPEG of a plate with so many pieces; `brown` from 0 (pale) to 1 (dark)."""
    dice = random.Random(seed)
    picture = Image.new("RGB", (SIDE, round(0.75 * SIDE)), (122, 98, 76))
    draw = ImageDraw.Draw(picture)
    for y in range(0, picture.height, 6):  # the table's boards
        shade = dice.randint(-8, 8)
        draw.line((0, y, SIDE, y + dice.randint(-3, 3)), fill=(122 + shade, 98 + shade, 76 + shade), width=7)
    middle = (SIDE // 2, picture.height // 2)
    for reach, colour in ((310, (205, 203, 196)), (302, (240, 239, 233)), (238, (230, 228, 221)), (232, (243, 242, 237))):
        draw.ellipse((middle[0] - reach, middle[1] - reach, middle[0] + reach, middle[1] + reach), fill=colour)
    for n in range(max(1, min(5, pieces))):
        x, y = middle[0] + dice.randint(-80, 80), middle[1] + dice.randint(-70, 70) - 8 * n
        reach = dice.randint(108, 124)
        edge, face = (222, 186, 128), (round(232 - 96 * brown), round(180 - 98 * brown), round(104 - 66 * brown))
        draw.ellipse((x - reach - 5, y - reach, x + reach + 9, y + reach + 12), fill=(150, 116, 74))
        draw.ellipse((x - reach, y - reach, x + reach, y + reach), fill=edge)
        draw.ellipse((x - reach + 9, y - reach + 9, x + reach - 9, y + reach - 9), fill=face)
        for _ in range(60):
            dx, dy, r = dice.gauss(0, 42), dice.gauss(0, 42), dice.uniform(1, 5)
            shade = dice.randint(-22, 14)
            draw.ellipse((x + dx - r, y + dy - r, x + dx + r, y + dy + r), fill=tuple(max(0, min(255, c + shade)) for c in face))
    out = io.BytesIO()
    picture.filter(ImageFilter.GaussianBlur(1.2)).save(out, "JPEG", quality=85)
    return out.getvalue()
