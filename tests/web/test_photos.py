"""Photos of a machine: without what a camera writes beside the picture, upright, small; hostile ones refused."""

from __future__ import annotations

import struct
import zlib
from io import BytesIO

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pulltide.services import photos
from pulltide.services.photos import LONGEST_PX, cleaned
from web.test_pages import keep, token

GPS, MODEL, ORIENTATION = 0x8825, 0x0110, 0x0112


def picture(size=(40, 20), kind: str = "JPEG", **exif: object) -> bytes:
    image, made = Image.new("RGB", size, "red"), BytesIO()
    image.paste("blue", (0, 0, size[0] // 2, size[1]))
    written = Image.Exif()
    written[MODEL] = "a camera of somebody"
    written[ORIENTATION] = exif.get("orientation", 1)
    written.get_ifd(GPS)[2] = (52.0, 30.0, 0.0)
    image.save(made, kind, exif=written)
    return made.getvalue()


def sent(client: TestClient, machine_id: str, content: bytes, caption: str = "Drum side", name: str = "a.jpg"):
    files = {"file": (name, content, "image/jpeg")}
    data = {"form_token": token(client), "caption": caption}
    return client.post(f"/machines/{machine_id}/photos", files=files, data=data, follow_redirects=False)


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_nothing_is_kept_of_what_the_camera_wrote(kind: str):
    given = picture(kind=kind)
    assert b"a camera of somebody" in given
    kept = cleaned(given, "a")
    assert b"somebody" not in kept
    with Image.open(BytesIO(kept)) as opened:
        assert opened.format == "JPEG"
        assert not opened.getexif()


def test_a_photo_is_upright_and_no_larger_than_it_need_be():
    """Orientation 6 of Exif 2.32: the row 0 of the file is the right side of the picture."""
    with Image.open(BytesIO(cleaned(picture((4000, 2000), orientation=6), "a"))) as opened:
        assert opened.size == (LONGEST_PX // 2, LONGEST_PX)
        red, _, blue = opened.getpixel((opened.width // 2, 10))
        assert blue > 200 > red, "what was left is up"


def huge() -> bytes:
    """A PNG of a few bytes that claims to be 50,000 by 50,000."""

    def chunk(name: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))

    head = struct.pack(">IIBBBBB", 50_000, 50_000, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"0")) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    "content",
    [
        b"",
        b"GIF89a",
        b"<svg xmlns='http://www.w3.org/2000/svg'/>",
        picture()[:200],
        b"\xff\xd8\xff" * 50,
        huge(),
        b"%PDF",
    ],
)
def test_what_is_no_photo_is_refused_in_words(client: TestClient, content: bytes):
    machine_id = keep(client)
    answer = sent(client, machine_id, content)
    assert answer.status_code == 422
    assert "Photo" in answer.text
    assert 'class="photos"' in client.get(f"/machines/{machine_id}/log").text
    assert "photos/1.jpg" not in client.get(f"/machines/{machine_id}/log").text


def test_a_photo_is_shown_taken_away_and_put_back(client: TestClient):
    machine_id = keep(client)
    assert (
        sent(client, machine_id, picture(), "Drum <b>side</b>").headers["location"]
        == f"/machines/{machine_id}/log#photos"
    )
    page = client.get(f"/machines/{machine_id}/log").text
    (address,) = {part.split('"')[0] for part in page.split('src="')[1:] if "/photos/" in part.split('"')[0]}
    assert "Drum &lt;b&gt;side&lt;/b&gt;" in page
    shown = client.get(address)
    assert shown.headers["content-type"] == "image/jpeg"
    assert shown.content[:2] == b"\xff\xd8"
    base = address.removesuffix(".jpg")
    client.post(f"{base}/take-away", data={"form_token": token(client)})
    page = client.get(f"/machines/{machine_id}/log").text
    assert f'src="{address}"' not in page
    client.post(f"{base}/put-back", data={"form_token": token(client)})
    assert f'src="{address}"' in client.get(f"/machines/{machine_id}/log").text


def test_a_photo_belongs_to_one_machine_and_there_are_so_many(client: TestClient, monkeypatch: pytest.MonkeyPatch):
    machine_id, other = keep(client), keep(client)
    sent(client, machine_id, picture())
    page = client.get(f"/machines/{machine_id}/log").text
    name = page.split("/photos/")[1].split('"')[0]
    assert client.get(f"/machines/{other}/photos/{name}").status_code == 404
    assert client.get(f"/machines/{machine_id}/photos/99999999999.jpg").status_code == 404
    monkeypatch.setattr("pulltide.store.photos.MAX_PHOTOS", 1)
    assert sent(client, machine_id, picture()).status_code == 422
    assert sent(client, machine_id, picture(), "x" * 201).status_code == 422
    assert photos.MAX_PHOTOS > 1


def test_a_photo_may_be_larger_than_a_form_but_not_without_end(client: TestClient):
    machine_id = keep(client)
    noise = Image.effect_noise((1600, 1600), 90).convert("RGB")
    made = BytesIO()
    noise.save(made, "PNG")
    assert 1_000_000 < len(made.getvalue()) < 8_000_000
    assert sent(client, machine_id, made.getvalue()).status_code == 303
    assert sent(client, machine_id, b"x" * 9_000_000).status_code == 413
