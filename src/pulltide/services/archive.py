"""All machines of a shop with their photos as one archive of open files, out and in.

A machine is ``name.pulltide.json``; its photos are ``name.photos/1.jpg`` and so on, and ``name.photos/photos.json``
says what each shows, who took it in, and when.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import IO, Any
from zipfile import ZIP_DEFLATED, ZIP_STORED, BadZipFile, ZipFile, ZipInfo

from pulltide.core.machine import Machine
from pulltide.services.photos import MAX_LETTERS, MAX_PHOTOS
from pulltide.services.texts import why_unusable
from pulltide.words import say

#: What an archive may hold: so many machines, each so large unpacked [bytes]. More is no shop.
MAX_FILES, MAX_FILE_BYTES = 2000, 1_000_000
#: A photo of it unpacked [bytes].
MAX_PHOTO_BYTES = 8_000_000
ENDING, FOLDER, INDEX = ".pulltide.json", ".photos/", "photos.json"


@dataclass(frozen=True, slots=True)
class Picture:
    """A photo in an archive: its JPEG, what it shows, who took it in, and when; None where that is not told."""

    name: str
    content: bytes
    caption: str = ""
    by: str = ""
    at: datetime | None = None


def _none() -> Iterator[Picture]:
    return iter(())


@dataclass(frozen=True, slots=True)
class Taken:
    """What became of one file of an archive: its name, and why it was left out; nothing where it was read.

    ``photos`` reads those of the machine, one at a time, as long as the archive is open.
    """

    name: str
    machine: Machine | None
    why: str = ""
    photos: Callable[[], Iterator[Picture]] = _none


class NoArchive(ValueError):
    """What was given is no archive of machines."""


def pack(into: IO[bytes], machines: Iterable[tuple[str, object, Iterable[Picture]]]) -> None:
    """Write an archive of machine files by their names, with their photos; two of one name are numbered."""
    taken = set[str]()
    with ZipFile(into, "w", ZIP_DEFLATED) as archive:
        for name, document, photos in machines:
            file = file_name(name)
            number = 2
            while file in taken:
                file, number = file_name(f"{name} {number}"), number + 1
            taken.add(file)
            archive.writestr(file, _json(document))
            index = []
            for place, photo in enumerate(photos, start=1):
                # a JPEG is packed already
                archive.writestr(f"{_folder(file)}{place}.jpg", photo.content, ZIP_STORED)
                at = None if photo.at is None else photo.at.isoformat()
                index.append({"file": f"{place}.jpg", "caption": photo.caption, "by": photo.by, "at": at})
            if index:
                archive.writestr(_folder(file) + INDEX, _json(index))


def _json(content: object) -> str:
    return json.dumps(content, indent=2, ensure_ascii=False) + "\n"


def _folder(file: str) -> str:
    return file.removesuffix(ENDING) + FOLDER


def file_name(name: str) -> str:
    """Name of a machine's file: its letters and digits.

    >>> file_name("Bellwether spring hammer"), file_name("../ß")
    ('bellwether-spring-hammer.pulltide.json', 'machine.pulltide.json')
    """
    kept = "".join(char if char.isascii() and char.isalnum() else "-" for char in name.lower()).strip("-")
    return f"{kept or 'machine'}{ENDING}"


def unpacked(given: IO[bytes], read: Callable[[object], Machine]) -> Iterator[Taken]:
    """Every machine file of an archive, read; one that cannot be read says why and harms no other.

    Raises NoArchive where it is none, or holds more than a shop does.
    """
    try:
        archive = ZipFile(given)
        entries = [entry for entry in archive.infolist() if not entry.is_dir()]
    except (BadZipFile, ValueError, NotImplementedError) as error:
        raise NoArchive(say("is no archive of machines (.zip)")) from error
    files = [entry for entry in entries if FOLDER not in entry.filename]
    if (
        len(files) > MAX_FILES
        or sum(entry.file_size for entry in files) > MAX_FILES * MAX_FILE_BYTES // 10
        or len(entries) > MAX_FILES * (MAX_PHOTOS + 2)
    ):
        raise NoArchive(say("holds more than a shop does; accepted: {max_files} machines", max_files=MAX_FILES))
    folders: dict[str, list[ZipInfo]] = {}
    for entry in entries:
        folder, found, _ = entry.filename.partition(FOLDER)
        if found:
            folders.setdefault(folder + FOLDER, []).append(entry)
    for entry in files:
        if entry.file_size > MAX_FILE_BYTES:
            yield Taken(entry.filename, None, say("is larger than a machine's file can be"))
            continue
        try:
            machine = read(_raw(archive, entry))
        except Exception as error:  # whatever a hostile file does, the next one is read
            yield Taken(entry.filename, None, _reason(error))
        else:
            own = folders.get(_folder(entry.filename), [])
            yield Taken(entry.filename, machine, photos=partial(_photos, archive, own))


def _raw(archive: ZipFile, entry: ZipInfo) -> Any:
    with archive.open(entry) as content:
        return json.loads(content.read(MAX_FILE_BYTES + 1).decode("utf-8-sig"))


def _photos(archive: ZipFile, entries: Sequence[ZipInfo]) -> Iterator[Picture]:
    """The photos of one machine in their order; what is not told of one, or not as it should be, is left empty."""
    given: dict[str, dict[str, Any]] = {}
    for entry in entries:
        if entry.filename.endswith(FOLDER + INDEX) and entry.file_size <= MAX_FILE_BYTES:
            try:
                given = {str(one["file"]): one for one in _raw(archive, entry)}
            except Exception:  # a list that cannot be read costs the captions, not the photos
                given = {}
    pictures = [entry for entry in entries if not entry.filename.endswith(".json")]
    for entry in sorted(pictures, key=lambda entry: (len(entry.filename), entry.filename)):
        name = entry.filename.rpartition("/")[2]
        one = given.get(name, {})
        caption, by = _text(one.get("caption"), MAX_LETTERS), _text(one.get("by"), 60)
        yield Picture(name, _content(archive, entry), caption, by, _when(one.get("at")))


def _content(archive: ZipFile, entry: ZipInfo) -> bytes:
    """What a photo's entry holds; nothing where it is too large or broken."""
    if entry.file_size > MAX_PHOTO_BYTES:
        return b""
    try:
        with archive.open(entry) as opened:
            return opened.read(MAX_PHOTO_BYTES + 1)
    except Exception:  # whatever a hostile file does, the next one is read
        return b""


def _text(given: object, most: int) -> str:
    text = " ".join(given.split()) if isinstance(given, str) else ""
    return "" if why_unusable(text) else text[:most]


def _when(given: object) -> datetime | None:
    try:
        at = datetime.fromisoformat(str(given))
    except ValueError:
        return None
    return at if at.tzinfo is not None else None


def _reason(error: Exception) -> str:
    if isinstance(error, json.JSONDecodeError | UnicodeDecodeError):
        return say("is no JSON file")
    return str(error).splitlines()[0][:200] if str(error) else say("cannot be read")
