"""All machines of a shop as one archive of open files, out and in."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from io import BytesIO
from zipfile import ZIP_DEFLATED, BadZipFile, ZipFile

from pulltide.core.machine import Machine

#: What an archive may hold: so many files, each so large unpacked [bytes]. More is no shop.
MAX_FILES, MAX_FILE_BYTES = 2000, 1_000_000
ENDING = ".pulltide.json"


@dataclass(frozen=True, slots=True)
class Taken:
    """What became of one file of an archive: its name, and why it was left out; nothing where it was read."""

    name: str
    machine: Machine | None
    why: str = ""


class NoArchive(ValueError):
    """What was given is no archive of machines."""


def packed(documents: Iterable[tuple[str, object]]) -> bytes:
    """An archive of machine files by their names; two of one name are numbered."""
    made, taken = BytesIO(), set[str]()
    with ZipFile(made, "w", ZIP_DEFLATED) as archive:
        for name, document in documents:
            file = file_name(name)
            number = 2
            while file in taken:
                file, number = file_name(f"{name} {number}"), number + 1
            taken.add(file)
            archive.writestr(file, json.dumps(document, indent=2, ensure_ascii=False) + "\n")
    return made.getvalue()


def file_name(name: str) -> str:
    """Name of a machine's file: its letters and digits.

    >>> file_name("Bellwether spring hammer"), file_name("../ß")
    ('bellwether-spring-hammer.pulltide.json', 'machine.pulltide.json')
    """
    kept = "".join(char if char.isascii() and char.isalnum() else "-" for char in name.lower()).strip("-")
    return f"{kept or 'machine'}{ENDING}"


def unpacked(given: bytes, read: Callable[[object], Machine]) -> Iterator[Taken]:
    """Every machine file of an archive, read; one that cannot be read says why and harms no other.

    Raises NoArchive where it is none, or holds more than a shop does.
    """
    try:
        archive = ZipFile(BytesIO(given))
        entries = [entry for entry in archive.infolist() if not entry.is_dir()]
    except (BadZipFile, ValueError, NotImplementedError) as error:
        raise NoArchive("is no archive of machines (.zip)") from error
    if len(entries) > MAX_FILES or sum(entry.file_size for entry in entries) > MAX_FILES * MAX_FILE_BYTES // 10:
        raise NoArchive(f"holds more than a shop does; accepted: {MAX_FILES} machines")
    for entry in entries:
        if entry.file_size > MAX_FILE_BYTES:
            yield Taken(entry.filename, None, "is larger than a machine's file can be")
            continue
        try:
            with archive.open(entry) as content:
                raw = json.loads(content.read(MAX_FILE_BYTES + 1).decode("utf-8-sig"))
            yield Taken(entry.filename, read(raw))
        except Exception as error:  # whatever a hostile file does, the next one is read
            yield Taken(entry.filename, None, _reason(error))


def _reason(error: Exception) -> str:
    if isinstance(error, json.JSONDecodeError | UnicodeDecodeError):
        return "is no JSON file"
    return str(error).splitlines()[0][:200] if str(error) else "cannot be read"
