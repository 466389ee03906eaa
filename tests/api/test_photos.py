"""Photographs over HTTP: what is none is refused, what is one loses what the camera noted."""

import io

import pytest
from PIL import Image

from tests.pictures import picture


@pytest.mark.parametrize(
    "kind, data, said",
    [
        ("noise", b"not a photo at all", "no photo"),
        ("cut short", None, "damaged"),
        ("huge", b"x" * 20_000_001, "20 MB"),
        ("bomb", "bomb", "megapixels"),
    ],
)
def test_what_is_no_photo_is_said_and_nothing_is_kept(weeks, kind, data, said):
    line = weeks.get("/api/journal").json()["batches"][0]
    data = picture()[:400] if data is None else picture(size=(9000, 9000), kind="PNG", mode="1") if data == "bomb" else data
    answer = weeks.post(f"/api/journal/batches/{line['id']}/photos", content=data)
    assert answer.status_code in (413, 422) and said in answer.json()["error"], kind
    assert weeks.get(f"/api/journal/batches/{line['id']}").json()["photos"] == []


def test_a_photo_is_turned_upright_made_smaller_and_loses_what_the_camera_noted(weeks):
    line = weeks.get("/api/journal").json()["batches"][0]
    url = f"/api/journal/batches/{line['id']}/photos"
    (kept,) = weeks.post(url, content=picture(size=(2400, 1200), turned=True)).json()
    assert weeks.post(url, content=picture(size=(2400, 1200), turned=True)).json() == [kept]  # the same photo twice is one
    assert (kept["width"], kept["height"]) == (800, 1600)
    for small, most in ((False, 1600), (True, 320)):
        answer = weeks.get(f"/api/photos/{kept['id']}.jpg", params={"small": small})
        shown = Image.open(io.BytesIO(answer.content))
        assert answer.headers["content-type"] == "image/jpeg" and max(shown.size) == most
        assert not shown.getexif() and "exif" not in shown.info and b"Here I live" not in answer.content and "icc_profile" not in shown.info
        red, _, blue = shown.convert("RGB").getpixel((shown.width // 2, 5))
        assert red > 200 > 60 > blue  # what was left is up
    assert weeks.delete(f"{url}/{kept['id']}").json() == [] and weeks.delete(f"{url}/{kept['id']}", params={"back": True}).json() == [kept]
    assert weeks.get("/api/photos/" + "0" * 32 + ".jpg").status_code == 404
