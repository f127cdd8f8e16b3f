"""All files of a plan in one archive, each by a plain name."""

from __future__ import annotations

import json
import re
import unicodedata
from collections.abc import Callable, Iterator, Mapping
from io import BytesIO
from typing import Literal
from zipfile import ZIP_DEFLATED, ZipFile

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.made.of_plan import as_made, wheels_of
from pulltide.core.made.profile import MakingProfile
from pulltide.presentation.paper.dxf_file import dxf_file
from pulltide.presentation.paper.pdf_file import Size, sheet_pdf
from pulltide.presentation.paper.sheet_paper import Form, SheetPaper, in_form, sheet_paper
from pulltide.presentation.paper.svg_file import svg_file
from pulltide.presentation.paper.wheel_file import WHEEL_KINDS, Look, stage_words, wheel_file, wheel_paper
from pulltide.presentation.parts_file import CSV, WORKBOOK, parts_csv, parts_workbook
from pulltide.presentation.sheet import sheet
from pulltide.quantities import Units
from pulltide.words import say

SheetKind = Literal["pdf", "svg", "dxf", "xlsx", "csv", "json", "zip"]
#: What a plan can be taken along as, by the ending of the file: its kind for browsers.
KINDS: Mapping[SheetKind, str] = {
    "pdf": "application/pdf",
    "svg": "image/svg+xml",
    "dxf": "image/vnd.dxf",
    "xlsx": WORKBOOK,
    "csv": CSV,
    "json": "application/json",
    "zip": "application/zip",
}
MAX_LETTERS = 60


class Taken:
    """A solved plan, to be written as any kind of file."""

    def __init__(
        self, machine: Machine, plan: Plan, result: PlanResult, catalog: Catalog, units: Units, printed: str = ""
    ) -> None:
        self.machine, self.plan, self.result, self.units = machine, plan, result, units
        self.profile = MakingProfile()
        self.paper = sheet_paper(machine, plan, result, catalog, units, printed)

    def file(self, kind: SheetKind, size: Size = "Letter", form: Form = "sheet") -> bytes:
        """The plan as a file of a kind; a PDF in a form."""
        made: dict[SheetKind, Callable[[], bytes]] = {
            "pdf": lambda: sheet_pdf(self._formed(form), size),
            "svg": lambda: svg_file(sheet(self.plan, self.result.chosen, self.units)),
            "dxf": lambda: dxf_file(self.plan, self.result.chosen, self.units),
            "xlsx": lambda: parts_workbook(self.paper.sheet.parts),
            "csv": lambda: parts_csv(self.paper.sheet.parts),
            "json": lambda: json.dumps(self.machine.model_dump(mode="json"), indent=2, ensure_ascii=False).encode(),
            "zip": lambda: self._archive(size),
        }
        return made[kind]()

    def _formed(self, form: Form) -> SheetPaper:
        return in_form(self.paper, form, (self.machine, self.plan, self.result), self.units)

    def name(self, kind: SheetKind) -> str:
        """A file name that any system takes."""
        return f"{plain_name(self.machine.name)}-{plain_name(self.plan.name)}.{kind}"

    def _archive(self, size: Size) -> bytes:
        stream = BytesIO()
        with ZipFile(stream, "w", ZIP_DEFLATED) as archive:
            for kind in KINDS:
                if kind != "zip":
                    archive.writestr(self.name(kind), self.file(kind, size))
            for name, content in self._wheels(size):
                archive.writestr(name, content)
        return stream.getvalue()

    def _wheels(self, size: Size) -> Iterator[tuple[str, bytes]]:
        """Drawing, outline and solid of every wheel that the plan has made here."""
        wheels = wheels_of(self.machine, self.plan)
        for part in self.plan.made:
            if part.wheel not in wheels:
                continue
            wheel = as_made(self.plan, part.wheel, wheels[part.wheel])
            where = (self.machine.name, self.plan.name, stage_words(part.wheel))
            paper = wheel_paper(wheel, where, self.units, Look(size=size, profile=self.profile))
            for kind in WHEEL_KINDS:
                content = wheel_file(wheel, kind, paper)
                yield f"wheels/{plain_name(self.machine.name)}-{part.wheel}.{kind}", content


def taken_of(machine: Machine, plan: Plan, catalog: Catalog, units: Units, printed: str = "") -> Taken:
    """A plan, solved, to be taken along. Raises InputErrors where it cannot be solved yet."""
    result = solve_plan(machine, plan, catalog=catalog)
    if result is None:
        raise InputErrors(
            [InputError(say("Plan"), plan.name, say("has no source that can be told power and speed of yet"))]
        )
    return Taken(machine, plan, result, catalog, units, printed)


def plain_name(text: str) -> str:
    """Letters, digits and dashes alone, so that no name leads out of a folder or means something to a system.

    >>> plain_name("../Ünïcode mill: 2"), plain_name("...")
    ('Unicode-mill-2', 'machine')
    """
    ascii_only = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode()
    return re.sub(r"[^A-Za-z0-9]+", "-", ascii_only).strip("-")[:MAX_LETTERS] or "machine"
