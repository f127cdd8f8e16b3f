"""``pulltide``: the same answers as the pages and the API, as JSON on standard output."""

from __future__ import annotations

import json
import sys
from datetime import date
from pathlib import Path
from typing import Annotated, Any

import typer

from pulltide.cli import making, shop
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine
from pulltide.core.methods import METHODS
from pulltide.core.run_up.control import Conditions
from pulltide.core.shipped import shipped_catalog
from pulltide.presentation.paper.bundle import KINDS, taken_of
from pulltide.presentation.paper.label import label_svg
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.sheet_paper import Form
from pulltide.presentation.paper.wheel_file import stage_words
from pulltide.presentation.wheel_report import loose_named, wheel_named, wheels_report
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.calculate import run_method, schema_of
from pulltide.services.choosing import plan_of
from pulltide.services.comparing import compare_report
from pulltide.services.fitting import fit_report
from pulltide.services.lists.look import look
from pulltide.services.lists.sheet import RefusedFile
from pulltide.services.lists.taking import report as list_report
from pulltide.services.log_report import log_report
from pulltide.services.raw_machines import read_machine
from pulltide.services.reporting import solve_report
from pulltide.services.running import run_report, started_by
from pulltide.services.schema import schema_of_record
from pulltide.services.searching import Searcher, plans_report, ways_report, wish_from
from pulltide.store.row_file import RowFile, cache_folder

MAX_BYTES = 1_000_000
#: No code on a label holds more.
LONGEST_ADDRESS = 500
app = typer.Typer(no_args_is_help=True, help="Sizes the drive line of shop-built machines.")


def _print(value: Any) -> None:
    print(json.dumps(value, indent=2, ensure_ascii=False))


def _fail(error: InputError | InputErrors | OSError) -> typer.Exit:
    errors = error.errors if isinstance(error, InputErrors) else (error,)
    for item in errors:
        print(f"{getattr(item, 'path', '') or ''} {item}".strip(), file=sys.stderr)
    return typer.Exit(2)


def _json(text: str, name: str) -> Any:
    if len(text) > MAX_BYTES:
        raise InputErrors(
            [InputError(name, f"{len(text):,} bytes", "is too large", accepted=f"up to {MAX_BYTES:,} bytes")]
        )
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as error:
        raise InputErrors([InputError(name, "", f"is not JSON ({error})")]) from error


def _machine(file: str) -> Machine:
    """The machine in a file, or on standard input."""
    text = sys.stdin.read() if file == "-" else Path(file).read_text("utf-8")
    return read_machine(_json(text, file), DEFAULT_UNITS)


@app.command()
def solve(file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")]) -> None:
    """Solve every plan of a machine file and print the result as JSON."""
    try:
        _print(solve_report(_machine(file)))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def compare(file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")]) -> None:
    """Print the plans of a machine file side by side, with what each is made of, as JSON."""
    try:
        _print(compare_report(_machine(file), shipped_catalog()))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def search(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    plan: Annotated[int, typer.Option(help="Plan whose motor is taken, from 1.")] = 1,
    wish: Annotated[
        str, typer.Option(help="What is allowed, as JSON: never, must, stages, price, turn, rank, motor, speeds, list.")
    ] = "{}",
) -> None:
    """Search the lists for drives of a machine and print the best of each kind, or with ``list`` of all, as JSON."""
    try:
        machine = _machine(file)
        said = _json(wish, "--wish")
        if not isinstance(said, dict):
            raise InputErrors([InputError("--wish", wish[:40], "is not a JSON object")])
        allowed = wish_from(said, shipped_catalog())
        searcher, source = Searcher(RowFile(cache_folder())), plan_of(machine, plan)
        found = ways_report(searcher.ways(machine, source, allowed), source, allowed)
        _print({**found, "plans": plans_report(machine, allowed, shipped_catalog())})
    except (InputErrors, InputError, OSError) as error:
        raise _fail(error) from error


@app.command()
def run(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    plan: Annotated[int, typer.Option(help="Which plan, from 1.")] = 1,
    volts: Annotated[float, typer.Option(min=0.5, max=1.2, help="Volts over rated.")] = 1.0,
    soft: Annotated[float, typer.Option(min=0, max=20, help="Seconds of a soft start's ramp.")] = 0.0,
    load: Annotated[float, typer.Option(min=0, max=2, help="Share of the load that is on.")] = 1.0,
    start: Annotated[str, typer.Option(help="star:3 (seconds in star) or vfd:5 (of a VFD's ramp); then:jam.")] = "",
) -> None:
    """Start a plan from rest, run it, switch it off, and print what happened as JSON."""
    try:
        machine = _machine(file)
        _print(run_report(machine, plan_of(machine, plan), started_by(Conditions(volts, soft, load), start)))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command("log")
def run_log(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    plan: Annotated[int, typer.Option(help="Which plan, from 1.")] = 1,
    page: Annotated[
        int | None, typer.Option(min=1, help="Which page of readings, from 1; the last by default.")
    ] = None,
) -> None:
    """Hold a page of readings against a plan and print what explains them, and what upkeep is due, as JSON."""
    try:
        machine = _machine(file)
        plan_of(machine, plan)
        _print(log_report(machine, plan - 1, page, date.today()))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def sheet(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    to: Annotated[list[str], typer.Option(help="File to write; its ending says what: pdf svg dxf xlsx csv json zip.")],
    plan: Annotated[int, typer.Option(help="Which plan, from 1.")] = 1,
    size: Annotated[Size, typer.Option(help="Paper of a PDF.")] = "Letter",
    form: Annotated[Form, typer.Option(help="A PDF on one page, as on the screen, or with every working.")] = "sheet",
) -> None:
    """Write the build sheet of a plan, its drawing, its parts list, or all of them in one archive."""
    try:
        machine = _machine(file)
        taken = taken_of(machine, plan_of(machine, plan), shipped_catalog(), DEFAULT_UNITS)
        for target in map(Path, to):
            kind = next((known for known in KINDS if target.suffix == f".{known}"), None)
            if kind is None:
                raise InputErrors([InputError("--to", target.name, "is no kind of file", accepted=", ".join(KINDS))])
            target.write_bytes(taken.file(kind, size, form))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def label(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    address: Annotated[str, typer.Argument(help="What its code opens.")],
    to: Annotated[str, typer.Option(help="SVG file to write.")],
) -> None:
    """Write a label with the machine's name and a code that opens an address."""
    try:
        machine = _machine(file)
        if len(address) > LONGEST_ADDRESS:
            raise InputErrors(
                [InputError("Address", address[:40], "is too long", accepted=f"{LONGEST_ADDRESS} letters")]
            )
        Path(to).write_bytes(label_svg(machine.name, machine.plans[0].name, address))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def wheels(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    plan: Annotated[int, typer.Option(help="Which plan, from 1.")] = 1,
) -> None:
    """Print every wheel of a plan that can be made, with what it measures."""
    try:
        machine = _machine(file)
        _print(wheels_report(machine, plan_of(machine, plan)))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


With = Annotated[
    list[str] | None,
    typer.Option("--with", help="What your machines do: kerf=1.2mm, clearance=0.1mm, shrinkage=0.003, sheet=300x200."),
]


@app.command()
def wheel(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    name: Annotated[str, typer.Argument(help="Which wheel: 1-driver, 2-driven.")],
    to: Annotated[list[str], typer.Option(help="File to write; its ending says what: dxf svg pdf stl 3mf.")],
    plan: Annotated[int, typer.Option(help="Which plan, from 1.")] = 1,
    size: Annotated[Size, typer.Option(help="Paper of a PDF.")] = "Letter",
    with_: With = None,
) -> None:
    """Write a wheel to make: its outline (for a kerf, or in sectors for a sheet), a solid to print, its drawing."""
    try:
        machine = _machine(file)
        wanted = plan_of(machine, plan)
        where = (machine.name, wanted.name, stage_words(name))
        making.write(wheel_named(machine, wanted, name), where, to, size, with_ or [])
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def part(
    kind: Annotated[str, typer.Argument(help="hole_circle, crank, cam or base.")],
    to: Annotated[list[str], typer.Option(help="File to write; its ending says what: dxf svg pdf stl 3mf.")],
    size: Annotated[Size, typer.Option(help="Paper of a PDF.")] = "Letter",
    with_: With = None,
) -> None:
    """Read the sizes of a loose part as a JSON object on standard input, and write it."""
    try:
        made = loose_named(kind, _json(sys.stdin.read(), "Standard input"), DEFAULT_UNITS)
        making.write(made, ("Loose part", made.title, "made to size"), to, size, with_ or [])
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command()
def fit(
    file: Annotated[str, typer.Argument(help="Machine file, or - for standard input.")],
    plan: Annotated[int, typer.Option(help="Which plan, from 1.")] = 1,
) -> None:
    """Print where the shafts of a plan stand, its tensions, and every shaft between its bearings, as JSON."""
    try:
        machine = _machine(file)
        _print(fit_report(machine, plan_of(machine, plan)))
    except (InputErrors, OSError) as error:
        raise _fail(error) from error


@app.command("list")
def list_file(
    file: Annotated[str, typer.Argument(help="A list of parts, CSV or XLSX.")],
    family: Annotated[str, typer.Option(help="Kind of part, where no column says it.")] = "",
) -> None:
    """Read a list of parts, keep nothing, and print what is in it and why some rows cannot be read."""
    try:
        found = look(Path(file).read_bytes(), Path(file).name, family=family)
    except RefusedFile as refused:
        raise _fail(InputError(file, "", f"cannot be read: {refused}")) from refused
    except OSError as error:
        raise _fail(error) from error
    _print(list_report(found))
    if found.refused:
        raise typer.Exit(1)


@app.command()
def calc(
    method: Annotated[str, typer.Argument(help="Name of the formula.")] = "",
    list_: Annotated[bool, typer.Option("--list", help="List the formulas.")] = False,
    schema: Annotated[bool, typer.Option("--schema", help="Print the JSON Schema of the formula's inputs.")] = False,
) -> None:
    """Read a JSON object on standard input, evaluate a formula, print result and working."""
    if list_ or not method:
        _print([{"name": item.name, "title": item.title} for item in METHODS.values()])
        return
    try:
        if method not in METHODS:
            raise InputErrors([InputError("Method", method, "is not known", accepted=", ".join(METHODS))])
        if schema:
            _print(schema_of(METHODS[method]))
        else:
            _print(run_method(METHODS[method], _json(sys.stdin.read(), "Standard input"), DEFAULT_UNITS))
    except InputErrors as error:
        raise _fail(error) from error


app.command()(shop.call)
app.command()(shop.client)


@app.command()
def schema() -> None:
    """Print the JSON Schema of the machine file."""
    _print(schema_of_record(Machine))


if __name__ == "__main__":
    app()
