"""The page "Keeping": backups made and listed, all machines out and in as one archive."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from datetime import UTC, datetime
from io import BytesIO
from pathlib import Path
from zipfile import ZIP_DEFLATED, ZipFile

import pytest
from fastapi.testclient import TestClient
from PIL import Image
from sqlalchemy import delete

from builders import build_machine
from pulltide.ops.cluster import server_programs
from pulltide.services.archive import MAX_FILES, NoArchive, pack, unpacked
from pulltide.store.dumps import ALWAYS_KEPT, KEPT, KEPT_DAYS, DumpFailed, Dumps
from pulltide.store.tables import PhotoRow
from web.test_pages import keep, token


@pytest.fixture
def kept(client: TestClient, database_url: str, tmp_path: Path) -> Iterator[Dumps]:
    """The shop with a folder for backups."""
    client.app.state.dumps = Dumps(database_url, tmp_path / "backups", server_programs())
    yield client.app.state.dumps
    client.app.state.dumps = None


def read_in(client: TestClient, content: bytes):
    files = {"file": ("machines.zip", content, "application/zip")}
    return client.post("/keeping/read-in", files=files, data={"form_token": token(client)})


def archive(**files: bytes) -> bytes:
    made = BytesIO()
    with ZipFile(made, "w", ZIP_DEFLATED) as written:
        for name, content in files.items():
            written.writestr(name, content)
    return made.getvalue()


def test_a_backup_is_made_and_listed_with_its_checksum(client: TestClient, kept: Dumps):
    keep(client)
    assert "No backup yet" in client.get("/keeping").text
    answer = client.post("/keeping/backup", data={"form_token": token(client)}, follow_redirects=False)
    assert (answer.status_code, answer.headers["location"]) == (303, "/keeping")
    (dump,) = kept.listed()
    assert dump.is_whole
    assert dump.reason == "asked"
    assert dump.file.stat().st_mode & 0o777 == 0o600
    page = client.get("/keeping").text
    assert dump.file.name in page
    assert "asked for" in page
    assert "1 on the floor" in page
    dump.file.write_bytes(dump.file.read_bytes() + b"x")
    assert "do not rely on it" in client.get("/keeping").text


def test_a_backup_that_fails_says_why_and_leaves_nothing(client: TestClient, kept: Dumps, tmp_path: Path):
    client.app.state.dumps = Dumps(kept.url + "-not-there", kept.folder, kept.programs)
    page = client.post("/keeping/backup", data={"form_token": token(client)})
    assert "could not be backed up" in page.text
    assert list(kept.folder.glob("*")) == []
    closed = tmp_path / "file"
    closed.write_text("")
    with pytest.raises(DumpFailed, match="could not be backed up"):
        Dumps(kept.url, closed / "backups", kept.programs).make("asked")


def test_only_the_newest_are_kept(kept: Dumps):
    kept.folder.mkdir(parents=True)
    for number in range(KEPT + 3):
        (kept.folder / f"2026-01-01-0000{number:02d}-asked.dump").write_text("old")
    kept.make("asked")
    names = sorted(dump.file.name for dump in kept.listed())
    assert len(names) == KEPT
    assert names[0] == "2026-01-01-000004-asked.dump"
    old = datetime.now().timestamp() - (KEPT_DAYS + 1) * 24 * 3600
    for dump in kept.listed():
        os.utime(dump.file, (old, old))
    kept.make("asked")
    assert len(kept.listed()) == ALWAYS_KEPT, "what is too old goes, but never the newest few"


def test_without_a_folder_it_says_so(client: TestClient):
    assert "without a folder for backups" in client.get("/keeping").text
    assert "without a folder" in client.post("/keeping/backup", data={"form_token": token(client)}).text


def test_all_machines_go_out_and_come_in_equal(client: TestClient):
    """What came out of one shop and is read into an empty one is the same, and read in again adds nothing."""
    for name in ("One", "Two", "Two"):
        keep(client, build_machine().model_copy(update={"name": name}))
    out = client.get("/keeping/machines.zip")
    assert out.headers["content-type"] == "application/zip"
    with ZipFile(BytesIO(out.content)) as files:
        assert sorted(files.namelist()) == ["one.pulltide.json", "two-2.pulltide.json", "two.pulltide.json"]
        assert json.loads(files.read("one.pulltide.json"))["name"] == "One"
    before = {stored.id for stored in client.app.state.machines.all()}
    assert "Added: 0. Already there: 3" in " ".join(read_in(client, out.content).text.split())
    for machine_id in before:
        client.app.state.machines.remove(machine_id)
    assert "Added: 3. Already there: 0" in " ".join(read_in(client, out.content).text.split())
    again = client.app.state.machines.all()
    assert {stored.machine.name for stored in again} == {"One", "Two"}
    plain = {"name": "x"}
    assert all(stored.machine.model_copy(update=plain) == build_machine().model_copy(update=plain) for stored in again)


def test_a_bad_file_in_an_archive_harms_no_other(client: TestClient):
    good = build_machine().model_dump_json().encode()
    latin = '{"name": "ä"}'.encode("latin-1")
    content = archive(good=good, words=b"not json", latin=latin, other=b"[1, 2]", big=b" " * 1_000_001)
    page = " ".join(read_in(client, content).text.split())
    assert "Added: 1. Already there: 0. Not read: 4." in page
    assert "is no JSON file" in page
    assert "larger than a machine" in page


@pytest.mark.parametrize("content", [b"", b"PK", b"not a zip", b"PK\x05\x06" + b"\xff" * 18])
def test_what_is_no_archive_is_refused(client: TestClient, content: bytes):
    answer = read_in(client, content)
    assert answer.status_code == 422
    assert "no archive of machines" in answer.text


def test_an_archive_of_too_many_files_is_refused():
    content = archive(**{f"m{number}": b"{}" for number in range(MAX_FILES + 1)})
    with pytest.raises(NoArchive, match="more than a shop"):
        list(unpacked(BytesIO(content), lambda raw: build_machine()))


def test_names_that_would_leave_the_folder_are_made_plain():
    made = BytesIO()
    pack(made, [("../../etc/passwd", {}, ()), ("", {}, ()), ("", {}, ())])
    with ZipFile(made) as files:
        names = files.namelist()
    assert len(set(names)) == 3
    assert all(name.endswith(".pulltide.json") and not set(name) & {"/", "\\"} and ".." not in name for name in names)


def picture(color: str) -> bytes:
    made = BytesIO()
    Image.new("RGB", (64, 40), color).save(made, "JPEG")
    return made.getvalue()


def test_photos_go_out_with_their_machine_and_come_in_again(client: TestClient):
    """What is written below them, who took them in and when; not one that was taken away. Twice adds none twice."""
    photos, machines = client.app.state.photos, client.app.state.machines
    keep(client, build_machine().model_copy(update={"name": "Mill"}))
    keep(client, build_machine().model_copy(update={"name": "Bare"}))
    (first,) = (stored.id for stored in machines.all() if stored.machine.name == "Mill")
    at = datetime(2026, 3, 1, 12, tzinfo=UTC)
    for color, caption in (("red", "belt side"), ("green", "nameplate"), ("blue", "blurred")):
        photos.keep(first, picture(color), caption, "Wim", at)
    photos.set_removed(first, photos.of(first)[0].id, True)
    out = client.get("/keeping/machines.zip").content
    with ZipFile(BytesIO(out)) as files:
        names = {"mill.photos/1.jpg", "mill.photos/2.jpg", "mill.photos/photos.json"}
        assert set(files.namelist()) == {"mill.pulltide.json", "bare.pulltide.json"} | names
        assert files.read("mill.photos/1.jpg") == picture("red")
    for stored in machines.all():
        machines.remove(stored.id)
    for added, there, came in ((2, 0, 2), (0, 2, 0)):
        page = " ".join(read_in(client, out).text.split())
        assert f"Added: {added}. Already there: {there}. Not read: 0. Photos: {came}." in page
    (again,) = (stored.id for stored in machines.all() if stored.machine.name == "Mill")
    told = [(one.caption, one.author, one.at) for one in photos.of(again)]
    assert told == [("nameplate", "Wim", at), ("belt side", "Wim", at)]
    with Image.open(BytesIO(photos.content(again, photos.of(again)[1].id))) as red:
        assert red.size == (64, 40)
        assert red.getpixel((20, 20))[0] > 200
    with client.app.state.engine.begin() as connection:
        connection.execute(delete(PhotoRow).where(PhotoRow.machine_id == again))
    page = " ".join(read_in(client, out).text.split())
    assert "Added: 0. Already there: 2. Not read: 0. Photos: 2." in page, "a machine on the floor gets those it lacks"


def test_a_bad_photo_or_list_of_them_costs_nothing_else(client: TestClient):
    good = build_machine().model_dump_json().encode()
    folder = "mill.photos/"
    files = {
        "mill.pulltide.json": good,
        f"{folder}1.jpg": picture("red"),
        f"{folder}2.jpg": b"no picture",
        f"{folder}../../3.jpg": picture("green"),
        f"{folder}4.jpg": b"broken photo" + os.urandom(64),
        f"{folder}big.jpg": b"\0" * 8_000_001,
        f"{folder}photos.json": b'[{"file": "1.jpg", "caption": 7, "by": "\\u0000", "at": "soon"}, {"file": "3.jpg"}]',
    }
    content = bytearray(archive(**files))
    # the third is packed as it is, so that a changed byte breaks its checksum
    at = content.index(b"broken photo")
    content[at] ^= 1
    page = " ".join(read_in(client, bytes(content)).text.split())
    assert "Added: 1. Already there: 0. Not read: 3. Photos: 2." in page
    assert "photo 2.jpg" in page
    assert "photo 4.jpg" in page
    assert "is no picture that can be read" in page
    (stored,) = client.app.state.machines.all()
    assert [(one.caption, one.author) for one in client.app.state.photos.of(stored.id)] == [("", ""), ("", "")]


def test_an_archive_may_be_larger_than_anything_else_that_is_sent(client: TestClient):
    """A shop of some hundred machines packs to more than a megabyte, and is read in again."""
    padding, machine = os.urandom(1_200_000), build_machine().model_dump_json().encode()
    content = archive(**{"mill.pulltide.json": machine, "mill.photos/1.jpg": padding})
    assert len(content) > 1_100_000
    page = " ".join(read_in(client, content).text.split())
    assert "Added: 1. Already there: 0. Not read: 1. Photos: 0." in page


def test_so_many_photos_are_tried_at_once_and_no_more(client: TestClient, monkeypatch):
    monkeypatch.setattr("pulltide.web.keeping.MAX_READ_PHOTOS", 3)
    machine = build_machine().model_dump_json().encode()
    files = {"a.pulltide.json": machine, "b.pulltide.json": machine.replace(b"Test rig", b"Other rig")}
    files |= {f"{name}.photos/{k}.jpg": picture("red") if k != 1 else b"none" for name in "ab" for k in (1, 2)}
    page = " ".join(read_in(client, archive(**files)).text.split())
    assert "Added: 2. Already there: 0. Not read: 3. Photos: 1." in page
    assert "b.pulltide.json, photo 2.jpg</b> and the rest are over the 3 photos" in page
