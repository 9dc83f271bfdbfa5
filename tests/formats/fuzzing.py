"""Mutated files through a reader, in a process of its own.

`python -m tests.formats.fuzzing READER FILES [SEED]`, or `all` for every reader one after another.
Prints a line of JSON for each: how many files were read and how many refused, the most processor
time that one took, the most memory of the process, and, by their kind and place, errors that are
not the project's own, each with the first file that met it in `/tmp`.
"""

from __future__ import annotations

import contextlib
import io
import json
import logging
import random
import re
import resource
import sys
import tempfile
import time
import traceback
import zipfile
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import NamedTuple

import trimesh

from tests.formats import samples
from tests.formats.fonts import as_flavour, few_of, made_font
from tests.fuzzing import most_megabytes, told
from tests.makings import document
from ulvent.core.base.errors import CurveError, UlventError
from ulvent.core.guides import guide_curves
from ulvent.core.outlines import curve_of
from ulvent.core.recipe import parse_piece
from ulvent.core.solids.found_faces import found_faces
from ulvent.core.workshop import Workshop
from ulvent.crew.inside import bound_memory, tidied
from ulvent.demo.first_drawer import drawer_guides
from ulvent.formats.body_reading import BodyKind, read_body
from ulvent.formats.dxf_reading import read_dxf
from ulvent.formats.fonts.font_file import read_font
from ulvent.formats.fonts.font_trial import facts
from ulvent.formats.guide_file import read_guide, write_guide
from ulvent.formats.out import FORMATS
from ulvent.formats.piece_file import read_piece, write_piece
from ulvent.formats.svg_reading import read_svg
from ulvent.shipped_faces import FONTS
from ulvent.web.scene import Painting, new_shapes

MOST_BYTES = 300_000_000
"""A process may take so much beyond what it has to begin with."""
_MARKS = (b"1e309", b"nan", b"-", b"999999999", b"0", b"\0", b"e", b"<use href='#a'/>", b"\n")
_FIGURE = re.compile(rb"-?\d+(?:\.\d+)?")
_FIGURES = (b"0", b"-1", b"1e-300", b"1e300", b"5e-324", b"0.5", b"-7.25", b"1e9", b"99999", b"3")
_KAUSHAN = FONTS / "kaushan-script.otf"
_WITHOUT_TRIAL = ("svg", "dxf", "piece", "guide", "stl", "3mf")
_SVG_FONT = b"""<svg xmlns="http://www.w3.org/2000/svg"><defs><font id="f" horiz-adv-x="500">
<font-face units-per-em="1000" ascent="800" descent="-200" cap-height="700" x-height="500"/>
<missing-glyph horiz-adv-x="500"/><glyph unicode="A" d="M0 0L250 700L500 0M100 250H400"/>
<glyph unicode="b" horiz-adv-x="450" d="M0 0V700M0 300C100 500 400 500 400 250S100 0 0 150"/>
<glyph unicode="o" d="M250 0A250 250 0 1 0 250 500A250 250 0 1 0 250 0z"/></font></defs></svg>"""


class Tried(NamedTuple):
    """A reader with all that is done with what it has read, and sound files of its kind."""

    use: Callable[[bytes], object]
    files: list[bytes]


def mutated(chance: random.Random, source: bytes) -> bytes:
    """A file with a few changes: mostly of single figures, so that it still hangs together."""
    data = bytearray(source)
    for _ in range(chance.randint(1, 4)):
        at = chance.randrange(len(data)) if data else 0
        match chance.choices(range(7), (10, 3, 3, 3, 3, 3, 1))[0]:
            case 0:
                figures = list(_FIGURE.finditer(data, at, at + 400))
                if figures:
                    one = chance.choice(figures)
                    data[one.start() : one.end()] = chance.choice(_FIGURES)
            case 1 if data:
                data[at] = chance.randrange(256)
            case 2:
                del data[at : at + chance.choice((1, 4, 40, 200))]
            case 3 if data:
                begin = chance.randrange(len(data))
                data[at:at] = data[begin : begin + chance.choice((1, 8, 60, 300))]
            case 4:
                data[at : at + 1] = chance.choice(_MARKS)
            case 5 if data:
                data[at : at + 2] = chance.choice((0, 0x7FFF, 0xFFFF, 0x8000)).to_bytes(2, "big")
            case _:
                del data[at + 1 :]
    return bytes(data)


def _lines(read: Callable[[bytes], object], data: bytes) -> None:
    for outline in read(data):
        with contextlib.suppress(CurveError):
            _ = curve_of(outline).length


def _font(data: bytes) -> None:
    """What is taken must be good for words: set, shown, and written."""
    facts(data, "made.ttf")
    face = read_font(data, "made.ttf")
    characters = getattr(face, "characters", None) or "ABbogHnx&é "
    words = "".join(characters)[:30].replace("\n", "")
    lettering = {"id": "t", "guide": "g", "face": "made", "text": words, "height": 9.0}
    piece = document(
        guides=[{"id": "g", "kind": "circle", "diameter": 200.0}], letterings=[lettering]
    )
    work = Workshop(lambda _: face).of(parse_piece(piece))
    new_shapes(work.layout, set())
    Painting(work.layout, "t").scene(work.findings).model_dump_json()
    for format in FORMATS.values():
        format.write(work, True)


def _guide(data: bytes) -> None:
    _, guide = read_guide(data)
    guide_curves((guide,))


def _body(kind: BodyKind, data: bytes) -> None:
    found_faces(read_body(data, kind))


def _bodies() -> list[trimesh.Trimesh]:
    return [trimesh.creation.annulus(16, 20, 30, sections=24), trimesh.creation.box((20, 30, 5))]


def _model(data: bytes) -> None:
    """The model of a 3MF file is what is changed: a package with another checksum is none."""
    package = io.BytesIO()
    with zipfile.ZipFile(package, "w") as packed:
        packed.writestr(_MODEL, data)
    _body("3mf", package.getvalue())


def _models() -> list[bytes]:
    packages = [zipfile.ZipFile(io.BytesIO(one.export(file_type="3mf"))) for one in _bodies()]
    return [package.read(_MODEL) for package in packages]


_MODEL = "3D/3dmodel.model"

READERS: dict[str, Callable[[], Tried]] = {
    "svg": lambda: Tried(
        partial(_lines, read_svg),
        [samples.EVERYTHING, samples.ARCS01, samples.ROUNDED, samples.CUBIC01],
    ),
    "dxf": lambda: Tried(partial(_lines, read_dxf), [samples.dxf()[0], samples.dxf(1)[0]]),
    "piece": lambda: Tried(read_piece, [write_piece(parse_piece(document()))]),
    "guide": lambda: Tried(_guide, [write_guide(*one) for one in drawer_guides().items()]),
    "ttf": lambda: Tried(_font, [made_font()]),
    "otf": lambda: Tried(_font, [few_of(_KAUSHAN, "ABbogHnx&é ")] * 49 + [_KAUSHAN.read_bytes()]),
    "woff2": lambda: Tried(_font, [as_flavour(made_font(), "woff2")]),
    "svg-font": lambda: Tried(_font, [_SVG_FONT]),
    "stl": lambda: Tried(
        partial(_body, "stl"),
        [one.export(file_type="stl") for one in _bodies()]
        + [one.export(file_type="stl_ascii").encode() for one in _bodies()],
    ),
    "3mf": lambda: Tried(_model, _models()),
    "jhf": lambda: Tried(_font, [(FONTS / "hershey-sans.jhf").read_bytes()]),
}


def tried(reader: str, count: int, seed: int) -> dict[str, object]:
    """What came of so many mutated files."""
    chance = random.Random(f"{reader} {seed}")
    use, files = READERS[reader]()
    found: dict[str, int] = {}
    read = refused = 0
    slowest = 0.0
    for index in range(count):
        if index % 100 == 0:
            tidied()  # as a worker does that has grown
        data = mutated(chance, files[index % len(files)])
        started = time.process_time()
        try:
            use(data)
            read += 1
        except UlventError:
            refused += 1
        except Exception as error:  # noqa: BLE001  all of them are what is looked for
            if reader not in _WITHOUT_TRIAL and _in_trial(error):
                refused += 1  # the trial names whatever a file does to its reader
                continue
            _keep(reader, found, error, data)
        took = time.process_time() - started
        if took > max(2.0, slowest):
            _saved(f"{reader}-slow", data)
        slowest = max(slowest, took)
    return {
        "reader": reader, "read": read, "refused": refused, "slowest_seconds": round(slowest, 3),
        "memory_mb": most_megabytes(), "errors": found,
    }  # fmt: skip


def _in_trial(error: Exception) -> bool:
    return any(frame.name == "facts" for frame in traceback.extract_tb(error.__traceback__))


def _keep(reader: str, found: dict[str, int], error: Exception, data: bytes) -> None:
    key = told(error)
    if key not in found:
        _saved(f"{reader}-{len(found)}", data)
    found[key] = found.get(key, 0) + 1


def _saved(name: str, data: bytes) -> None:
    (Path(tempfile.gettempdir()) / f"fuzz-{name}").write_bytes(data)


def main() -> None:
    logging.disable(logging.CRITICAL)
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    reader, count, *seed = sys.argv[1:]
    bound_memory(MOST_BYTES)
    for one in READERS if reader == "all" else [reader]:
        print(json.dumps(tried(one, int(count), int(seed[0]) if seed else 0)), flush=True)


if __name__ == "__main__":
    main()
