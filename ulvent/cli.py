"""The command line: the same core from a shell, with no database.

A wrong piece exits 2 with one line on standard error that says which field is
wrong and why; nothing is written then.
"""

from __future__ import annotations

import os
import sys
import tempfile
from dataclasses import replace
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from ulvent.core.base.errors import UlventError
from ulvent.core.layout import Layout, lay_out
from ulvent.core.layout.measure import measure as measured
from ulvent.core.proof import proof_of, prove
from ulvent.core.recipe.tool_sheet import PLAIN, TOOL_SHEETS
from ulvent.formats import WRITERS
from ulvent.formats.json_file import LARGEST
from ulvent.formats.piece_file import ENDING, read_piece, write_piece
from ulvent.shipped_faces import face_named, shipped_faces

app = typer.Typer(
    help="Ulvent fits lettering to circles and curves and gives outlines that are ready to cut.",
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    context_settings={"help_option_names": ["-h", "--help"]},
)

WRONG_PIECE = 2
REPOSITORY = Path(__file__).resolve().parent.parent
PieceFile = Annotated[
    Path,
    typer.Argument(metavar="PIECE", help="A piece file, NAME.ulvent.json.", show_default=False),
]


def main() -> None:
    """The `ulvent` command."""
    app()


@app.command()
def measure(piece: PieceFile) -> None:
    """Print where every letter stands, its gap, and the room left on its guide, as JSON.

    Lengths are in millimetres, angles in degrees.
    """
    layout = _laid_out(piece)
    typer.echo(measured(layout).model_dump_json(indent=2))


@app.command()
def export(
    piece: PieceFile,
    out: Annotated[
        Path,
        typer.Argument(metavar="OUT", help="The file to write: .svg or .dxf.", show_default=False),
    ],
    guides: Annotated[
        bool, typer.Option(help="Write the guides too, apart from the letters.")
    ] = False,
) -> None:
    """Write the lettering as clean outlines, in the format that OUT's ending names.

    Guides are left out unless asked for. Letters that have no room on their guide
    are left out as well, and named on standard error.
    """
    writer = WRITERS.get(out.suffix.lower().removeprefix("."))
    if writer is None:
        endings = " or ".join(f".{ending}" for ending in WRITERS)
        _refuse(f"{out}: the file must end in {endings}")
    layout = _laid_out(piece)
    try:
        data = writer(layout, guides)
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    _write(out, data)
    for finding in prove(layout, shipped_faces):
        typer.echo(f"{finding.severity}: {finding.lettering}: {finding.message}", err=True)


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
    layout = _laid_out(piece)
    if sheet:
        known = {one.id: one for one in (PLAIN, *TOOL_SHEETS)}
        unknown = next((name for name in sheet if name not in known), None)
        if unknown is not None:
            _refuse(f"--sheet: there is no tool sheet “{unknown}”; there are {', '.join(known)}")
        sheets = tuple(known[name] for name in dict.fromkeys(sheet))
        layout = replace(layout, piece=layout.piece.model_copy(update={"tool_sheets": sheets}))
    try:
        proofed = proof_of(layout, shipped_faces)
    except UlventError as error:
        _refuse(f"{piece}: {error}")
    lines = (finding.model_dump_json() for finding in proofed.findings)
    typer.echo("[" + ",\n ".join(lines) + "]")
    if proofed.faults:
        raise typer.Exit(1)


@app.command()
def sheets() -> None:
    """Print the tool sheets that come with Ulvent, as JSON."""
    typer.echo("[" + ",\n ".join(one.model_dump_json() for one in (PLAIN, *TOOL_SHEETS)) + "]")


def _laid_out(path: Path) -> Layout:
    try:
        with path.open("rb") as file:
            data = file.read(LARGEST + 1)
        return lay_out(read_piece(data), lambda name: face_named(name, beside=path.parent))
    except OSError as error:
        _refuse(f"{path}: {error.strerror}")
    except UlventError as error:
        _refuse(f"{path}: {error}")


def _refuse(message: str) -> NoReturn:
    print(" ".join(message.split()), file=sys.stderr)  # noqa: T201
    raise typer.Exit(WRONG_PIECE)


def _write(out: Path, data: bytes) -> None:
    """Write a file whole or not at all."""
    try:
        handle, name = tempfile.mkstemp(dir=out.parent, prefix=".ulvent-")
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        umask = os.umask(0)
        os.umask(umask)
        os.chmod(name, 0o666 & ~umask)
        os.replace(name, out)
    except OSError as error:
        _refuse(f"{out}: cannot be written: {error.strerror}")


@app.command()
def serve(
    port: Annotated[
        int | None,
        typer.Option(min=0, max=65535, help="Port; 8480 if it is free, 0 for any free one."),
    ] = None,
    empty: Annotated[bool, typer.Option("--empty", help="Leave the demo pieces out.")] = False,
    var: Annotated[Path, typer.Option(help="Folder for the database and the logs.")] = REPOSITORY
    / "var",
) -> None:
    """Start Ulvent on this machine and print its address. Ctrl-C stops it."""
    from ulvent.web.serve import AlreadyRunningError
    from ulvent.web.serve import serve as run

    try:
        run(var, port, empty, typer.echo)
    except AlreadyRunningError as error:
        typer.echo(str(error))
    except UlventError as error:
        typer.echo(f"Ulvent could not start: {error}", err=True)
        raise typer.Exit(1) from error


@app.command()
def demo(
    folder: Annotated[
        Path, typer.Argument(metavar="FOLDER", help="Where to write them.", show_default=False)
    ],
) -> None:
    """Write the demo pieces as piece files, to try the other commands on."""
    from ulvent.demo import demo_pieces

    folder.mkdir(parents=True, exist_ok=True)
    for piece in demo_pieces():
        path = folder / f"{piece.title.lower().replace(' ', '-')}{ENDING}"
        _write(path, write_piece(piece))
        typer.echo(path)
