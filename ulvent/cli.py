"""The command line: the same core from a shell, with no database.

A wrong piece exits 2 with one line on standard error that says which field is
wrong and why; nothing is written then.

Over 400 lines, since options and help of all commands are one interface, seen at one place.
"""

from __future__ import annotations

import gc
import json
import math
import sys
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Literal, NoReturn

import typer

from ulvent.core.base.errors import UlventError

if TYPE_CHECKING:
    from ulvent.core.proof import Finding
    from ulvent.core.recipe import Piece
    from ulvent.core.series.nested_sheets import Sheet
    from ulvent.core.workshop import Workpiece
    from ulvent.machines import Fault

app = typer.Typer(
    help="Ulvent fits lettering to circles and curves and gives outlines that are ready to cut.",
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    context_settings={"help_option_names": ["-h", "--help"]},
)

WRONG_PIECE = 2
PieceFile = Annotated[
    Path,
    typer.Argument(metavar="PIECE", help="A piece file, NAME.ulvent.json.", show_default=False),
]
OutFile = Annotated[
    Path,
    typer.Argument(
        metavar="OUT",
        help="The file to write: .svg, .dxf, .plt, .gcode, .pdf, .png, or stitches: .dst, .exp, "
        ".pes, .jef, .vp3; thread as lines: .thread.svg, .thread.dxf, .thread.gcode, .thread.pdf; "
        "or the part: .stl, .3mf, .obj, .glb, .step, and its face laid flat: .flat.svg, "
        ".flat.dxf, .flat.pdf.",
        show_default=False,
    ),
]
OnePass = Annotated[
    str | None,
    typer.Option(
        "--pass",
        metavar="PASS",
        show_default=False,
        help="Write one pass of the run sheet alone, by its number or its id.",
    ),
]


def main() -> None:
    """The `ulvent` command."""
    # A command ends before the collector of garbage has paid; `serve` sets its own.
    gc.disable()
    app()


# Each command imports what it uses when it is run: most of what there is takes long to load.


@app.command()
def measure(piece: PieceFile) -> None:
    """Print where every letter stands, its gap, and the room left on its guide, as JSON.

    Lengths are in millimetres, angles in degrees.
    """
    from ulvent.core.layout.measure import measure as measured

    work = _workpiece(piece)
    try:
        found = measured(work.layout)
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    typer.echo(found.model_dump_json(indent=2))


@app.command()
def export(
    piece: PieceFile,
    out: OutFile,
    one_pass: OnePass = None,
    hooping: Annotated[
        int,
        typer.Option(min=0, help="Of stitches split by the hoop, one hooping, from 1."),
    ] = 0,
    guides: Annotated[
        bool, typer.Option(help="Write the guides too, apart from the letters.")
    ] = False,
    anyway: Annotated[
        bool, typer.Option(help="Write the file though faults are open; it says what it lacks.")
    ] = False,
) -> None:
    """Write the lettering as clean outlines, in the format that OUT's ending names.

    HP-GL, G-code, PDF and PNG carry the run: what each pass does, in order. A piece without a run
    sheet has the plain one: what is drawn, then what is engraved, then what is cut.

    The piece is prepared as it says. Guides are left out unless asked for. Whatever is wrong with
    the prepared piece, and is not accepted, is named on standard error. While a fault is open
    nothing is written, and the exit code is 1, unless the file is wanted anyway; letters that
    have no room are not in it then.
    """
    write = _writer(out, guides, one_pass, hooping)
    work = _workpiece(piece)
    try:
        findings, faults, left_out = work.proof.findings, work.proof.faults, work.left_out
        data = write(work) if anyway or not faults else b""
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    _say(findings)
    if faults and left_out:
        typer.echo(left_out, err=True)
    if faults and not anyway:
        typer.echo(f"{out} is not written while faults are open; --anyway writes it", err=True)
        raise typer.Exit(1)
    _write(out, data)


def _say(findings: Iterable[Finding]) -> None:
    """What is wrong and not accepted, on standard error."""
    for finding in findings:
        if not finding.accepted:
            where = f"{finding.lettering}: " if finding.lettering else ""
            typer.echo(f"{finding.severity}: {where}{finding.message}", err=True)


def _writer(
    out: Path, guides: bool, one_pass: str | None, hooping: int
) -> Callable[[Workpiece], bytes]:
    """What writes a piece, its run or its thread, in the format of a file's ending."""
    from ulvent.core.stitches.hoops import one_hooping
    from ulvent.formats.every_format import every_format
    from ulvent.formats.out import FORMATS
    from ulvent.formats.run_out import RUN_FORMATS
    from ulvent.formats.solid_out import SOLID_FORMATS
    from ulvent.formats.thread_out import THREAD_FORMATS

    known = sorted(every_format(), key=len, reverse=True)
    name = next((one for one in known if out.name.lower().endswith(f".{one}")), "")
    if name in FORMATS and one_pass is None:
        return lambda work: FORMATS[name].write(work, guides)
    if name in THREAD_FORMATS:
        if one_pass is not None:
            _refuse("--pass: a stitch file has all of the thread, or one --hooping")
        if guides:
            _refuse("--guides: guides are not sewn")
        return lambda work: THREAD_FORMATS[name].write(
            one_hooping(work.piece, work.embroidery, hooping)
        )
    if name in SOLID_FORMATS:
        if one_pass is not None or guides:
            _refuse(f"{'--guides' if guides else '--pass'}: a part has neither passes nor guides")
        return SOLID_FORMATS[name].file
    if hooping:
        _refuse("--hooping: only stitch files are split by hoops")
    if name not in RUN_FORMATS:
        endings = ", ".join(f".{one}" for one in every_format())
        _refuse(f"{out}: the file must end in one of {endings}")
    if guides:
        _refuse("--guides: a run has only what its passes work on; let one work on the guide")
    wanted = RUN_FORMATS[name]
    return lambda work: wanted.write(work.run.only(one_pass) if one_pass else work.run)


@app.command()
def proof(
    piece: PieceFile,
    sheet: Annotated[
        list[str] | None,
        typer.Option(
            help="A tool sheet to hold the piece against in place of its own; may be given "
            "again. `ulvent sheets` lists them."
        ),
    ] = None,
) -> None:
    """Print what is wrong with a piece, as JSON. Exits 1 when a finding is a fault.

    The piece is prepared, and held against its tool sheets: limits of material and tool.
    Findings that the piece accepts are printed as accepted, and are no fault.
    """
    work = _workpiece(piece, sheet)
    try:
        proofed = work.proof
        findings = [work.with_remedies(finding) for finding in proofed.findings]
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    lines = (finding.model_dump_json() for finding in findings)
    typer.echo("[" + ",\n ".join(lines) + "]")
    if proofed.faults:
        raise typer.Exit(1)


@app.command(
    help="Make a piece again for each row of a list, on all cores.\n\n"
    "Fields in its words, as {name}, are filled from the columns of their names; a piece without "
    "fields gets the words of its first lettering from the first column. Exits 1 where a row has "
    "faults; that row is not written then."
)
def names(
    piece: PieceFile,
    list: Annotated[
        Path,
        typer.Argument(
            metavar="LIST",
            help="Rows to fill it with: CSV or TSV, a name a line; or numbers, as 001-250.",
            show_default=False,
        ),
    ],
    out: Annotated[Path, typer.Option("--out", metavar="DIR", help="Folder for the files.")],
    format: Annotated[str, typer.Option(help="Of each file, by its ending.")] = "svg",
    sheets: Annotated[
        str | None,
        typer.Option(
            metavar="WIDTH[xHEIGHT]",
            show_default=False,
            help="Nest all on sheets of this size, mm: SVG, 3MF, or stitches in hoops, with "
            "a cutting list. Without a height: all in one file, off a roll so wide.",
        ),
    ] = None,
    offcut: Annotated[
        list[str] | None,
        typer.Option(
            metavar="WIDTHxHEIGHT",
            show_default=False,
            help="What is left from before, mm, to be filled before a whole sheet is taken.",
        ),
    ] = None,
    margin: Annotated[float, typer.Option(min=0.0, help="Free round sheets, mm.")] = 5.0,
    gap: Annotated[float, typer.Option(min=0.0, help="Between parts on sheets, mm.")] = 2.0,
    turns: Annotated[
        str, typer.Option(help="Degrees by which parts may be turned on sheets.")
    ] = "0,90",
    mark: Annotated[
        float,
        typer.Option(min=0.0, max=50.0, help="How high the number beside each part is, mm."),
    ] = 0.0,
    one_height: Annotated[
        bool, typer.Option("--one-height", help="One height for all rows, the largest that fits.")
    ] = False,
    name: Annotated[
        str, typer.Option(help="Of each file: {number} and {words} stand for a row's own.")
    ] = "{number}-{words}",
    zip: Annotated[bool, typer.Option("--zip", help="All files in one ZIP.")] = False,
    anyway: Annotated[
        bool, typer.Option(help="Write rows too that do not fit or have faults.")
    ] = False,
) -> None:
    """Make a piece again for each row of a list.

    Over 40 lines, since it has many options; the rest is `names_command`.
    """
    from ulvent.core.series import Pattern, matched
    from ulvent.formats.every_format import every_format
    from ulvent.formats.row_files import Wanted, refuse_unmakeable
    from ulvent.formats.words_file import counted_rows, read_table
    from ulvent.names_command import Order, make

    if format not in every_format():
        _refuse(f"--format: “{format}” is none; there are {', '.join(every_format())}")
    pattern = Pattern(_workpiece(piece).piece)
    try:
        counting = None if list.exists() else counted_rows(list.name)
        table = counting or read_table(list.read_bytes())
        found = matched(table.rows, pattern.fields)
    except OSError as error:
        _refuse(f"{list}: {error.strerror}")
    except UlventError as error:
        _refuse(f"{list}: {error}")
    try:
        out.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        _refuse(f"{out}: cannot be made: {error.strerror}")
    wanted = Wanted(format, name, anyway, _sheet_of(sheets, margin, gap, turns, offcut or (), mark))
    try:
        refuse_unmakeable(wanted, found.rows, len(found.rows))
    except UlventError as error:
        _refuse(f"--{error}")
    order = Order(pattern.piece.model_dump(mode="json"), found, piece.parent, out, wanted)
    try:
        faults = make(order, typer.echo, one_height, zip)
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    except OSError as error:
        _refuse(f"{out}: cannot be written: {error.strerror}")
    if table.encoding != "utf-8":
        typer.echo(f"{list} was read as {table.encoding}", err=True)
    if faults:
        raise typer.Exit(1)


def _sheet_of(
    sheets: str | None,
    margin: float,
    gap: float,
    turns: str,
    offcuts: Sequence[str],
    mark: float,
) -> Sheet | None:
    """The sheet that parts are nested on, from what was typed."""
    from ulvent.core.series.nested_sheets import Sheet

    if sheets is None:
        return None
    try:
        degrees = tuple(map(float, turns.split(",")))
    except ValueError:
        _refuse(f"--turns: “{turns}” is no degrees; write 0,90")
    left = tuple(_size("--offcut", one)[:2] for one in offcuts)
    width, height, roll = _size("--sheets", sheets, roll=True)
    return Sheet(width, height, margin, gap, degrees, left, roll, mark)


def _size(option: str, typed: str, roll: bool = False) -> tuple[float, float, bool]:
    """Width and height, and whether a width alone was typed, where it may be a roll's."""
    try:
        width, *more = map(float, typed.lower().replace("×", "x").split("x"))
        (height,) = more or ([0.0] if roll else [])
        known = 0.0 < width < math.inf and 0.0 <= height < math.inf
    except ValueError:
        known = False
    if not known:
        _refuse(f"{option}: “{typed}” is no size; write 600x400")
    return width, height, not more


@app.command()
def run(piece: PieceFile, one_pass: OnePass = None) -> None:
    """Print what each pass of a piece's run comes to, as JSON: lengths in mm, times in seconds."""
    work = _workpiece(piece)
    try:
        found = work.run.only(one_pass) if one_pass else work.run
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    passes = [
        {
            "number": one.number,
            "id": one.recipe.id,
            "title": one.title,
            "tool": one.recipe.tool,
            "lines": len(one.names),
            "drawn": round(one.drawn, 3),
            "idle": round(one.idle, 3),
            "seconds": round(one.seconds, 3),
        }
        for one in found.passes
    ]
    typer.echo(json.dumps({"passes": passes, "seconds": round(found.seconds, 3)}, indent=1))


@app.command()
def sheets() -> None:
    """Print the tool sheets that come with Ulvent, as JSON."""
    from ulvent.core.recipe import PLAIN, TOOL_SHEETS

    typer.echo("[" + ",\n ".join(one.model_dump_json() for one in (PLAIN, *TOOL_SHEETS)) + "]")


def _workpiece(path: Path, sheets: list[str] | None = None) -> Workpiece:
    """The piece of a file, held against named tool sheets in place of its own."""
    from ulvent.core.workshop import Workshop
    from ulvent.formats.json_file import LARGEST
    from ulvent.formats.piece_file import read_piece
    from ulvent.shipped_faces import face_named, shipped_faces

    try:
        with path.open("rb") as file:
            piece = read_piece(file.read(LARGEST + 1))
    except OSError as error:
        _refuse(f"{path}: {error.strerror}")
    except UlventError as error:
        _refuse(f"{path}: {error}")
    workshop = Workshop(lambda name: face_named(name, beside=path.parent), shipped_faces)
    return workshop.of(_with_sheets(piece, sheets) if sheets else piece)


def _with_sheets(piece: Piece, names: list[str]) -> Piece:
    from ulvent.core.recipe import PLAIN, TOOL_SHEETS

    known = {one.id: one for one in (PLAIN, *TOOL_SHEETS)}
    unknown = next((name for name in names if name not in known), None)
    if unknown is not None:
        _refuse(f"--sheet: there is no tool sheet “{unknown}”; there are {', '.join(known)}")
    sheets = tuple(known[name] for name in dict.fromkeys(names))
    return piece.model_copy(update={"tool_sheets": sheets})


def _refuse(message: str) -> NoReturn:
    print(" ".join(message.split()), file=sys.stderr)  # noqa: T201
    raise typer.Exit(WRONG_PIECE)


def _write(out: Path, data: bytes) -> None:
    """Write a file whole or not at all."""
    from ulvent.formats.whole_file import write_whole

    try:
        write_whole(out, data)
    except OSError as error:
        _refuse(f"{out}: cannot be written: {error.strerror}")


@app.command()
def serve(
    port: Annotated[
        int | None,
        typer.Option(min=0, max=65535, help="Port; 8480 if it is free, 0 for any free one."),
    ] = None,
    empty: Annotated[bool, typer.Option("--empty", help="Leave the demo pieces out.")] = False,
    var: Annotated[
        Path | None,
        typer.Option(
            help="Folder for the database and the logs; in your own data if it is not given.",
            show_default=False,
        ),
    ] = None,
    machine: Annotated[
        list[str] | None,
        typer.Option(
            metavar="ADDRESS",
            show_default=False,
            help="A machine that may be sent to: host and port, or a serial device. Repeat it.",
        ),
    ] = None,
    workers: Annotated[
        int | None,
        typer.Option(
            min=0,
            max=256,
            show_default="as many as there are cores, but one",
            help="Processes that make batches of names.",
        ),
    ] = None,
) -> None:
    """Start Ulvent on this machine and print its address. Ctrl-C stops it.

    Over 40 lines, since it has many options; the rest is `web.serve`.
    """
    from platformdirs import user_data_path

    from ulvent.crew import begin_early
    from ulvent.web import WORKERS_HAVE

    # It takes as long as all that is loaded here.
    begin_early(WORKERS_HAVE)
    from ulvent.web.serve import AlreadyRunningError
    from ulvent.web.serve import serve as run

    try:
        run(var or user_data_path("ulvent"), port, empty, typer.echo, machine or (), workers)
    except AlreadyRunningError as error:
        typer.echo(str(error))
    except UlventError as error:
        typer.echo(f"Ulvent could not start: {error}", err=True)
        raise typer.Exit(1) from error


@app.command()
def worker(
    database: Annotated[
        str,
        typer.Option(
            envvar="ULVENT_DATABASE_URL",
            help="PostgreSQL of the Ulvent to work for, as a URL.",
            show_default=False,
        ),
    ],
) -> None:
    """Make batches of names for an Ulvent that runs, here or on another machine.

    Any number of workers may run, on any number of machines; each may be ended at any moment.
    """
    from ulvent.batches.queue_worker import work
    from ulvent.store.database import driver_url

    work(driver_url(database))


@app.command()
def machine(
    kind: Annotated[
        Literal["plotter", "beam"], typer.Argument(help="Which one.", show_default=False)
    ],
    port: Annotated[
        int, typer.Option(min=0, max=65535, help="Port on this machine; 0 for any free one.")
    ] = 0,
    width: Annotated[float, typer.Option(min=1.0, help="Of its bed, mm.")] = 600.0,
    height: Annotated[float, typer.Option(min=1.0, help="Of its bed, mm.")] = 400.0,
    fault: Annotated[
        str, typer.Option(help="What goes wrong with it, once; a wrong word lists them.")
    ] = "",
    after: Annotated[int, typer.Option(min=0, help="After so many instructions.")] = 0,
    pace: Annotated[
        float, typer.Option(min=0.0, help="Times faster than a real one; 0 for at once.")
    ] = 0.0,
    door: Annotated[
        int | None, typer.Option(min=0, max=65535, help="Port at which its bed is looked at.")
    ] = None,
    keep: Annotated[
        Path | None, typer.Option(help="File that remembers what was done on its bed.")
    ] = None,
    picture: Annotated[
        Path | None, typer.Option(help="Where to draw what came out, as PNG, when it ends.")
    ] = None,
) -> None:
    """Start a simulated machine on this machine and print its address. Ctrl-C stops it.

    A plotter takes HP-GL as it comes; a beam takes G-code line by line, and says ok to each.
    """
    from ulvent import machines

    bed = machines.Bed(width, height, _fault(fault), after, pace=pace, kept=keep)
    try:
        machines.stand(kind, bed, port, door, typer.echo)
    except OSError as error:
        _refuse(f"--port: {port} cannot be listened on: {error.strerror}")
    typer.echo(f"{len(bed.done)} lines done")
    if picture is not None:
        from ulvent.machines.came_out import picture as drawn

        _write(picture, drawn(bed))


def _fault(name: str) -> Fault | None:
    from ulvent.machines import FAULTS

    if name and name not in FAULTS:
        known = "; ".join(f"{name}: {words}" for name, words in FAULTS.items())
        _refuse(f"--fault: there is no fault “{name}”; there are {known}")
    return name or None


@app.command()
def demo(
    folder: Annotated[
        Path, typer.Argument(metavar="FOLDER", help="Where to write them.", show_default=False)
    ],
) -> None:
    """Write the demo pieces as piece files, to try the other commands on."""
    from ulvent.demo import demo_pieces
    from ulvent.formats.piece_file import ENDING, write_piece

    folder.mkdir(parents=True, exist_ok=True)
    for piece in demo_pieces():
        path = folder / f"{piece.title.lower().replace(' ', '-')}{ENDING}"
        _write(path, write_piece(piece))
        typer.echo(path)
