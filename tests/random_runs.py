"""Random run sheets through every writer and both simulated machines, in a process of its own.

`python -W error -m tests.random_runs SHEETS [SEED]`. Prints a line of JSON: how many sheets were
made, how many were refused, the most processor time of one, and what went wrong, by its kind, each
with the first seed that met it.
"""

from __future__ import annotations

import random
from typing import Any

from tests.makings import document, workpiece
from tests.trying import Trying
from ulvent.core.base.tools import TOOLS
from ulvent.core.outlines import curve_of
from ulvent.core.runs import Run
from ulvent.formats.dxf_reading import read_dxf
from ulvent.formats.outline_file import OutlineFileError
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.formats.svg_reading import read_svg
from ulvent.machines import BeamMachine, Bed, Plotter

ROOM = 25.0
"""mm round what is worked on: leads, overscan and pivots go beyond it."""
WORKS = ({"what": "cut"}, {"what": "letters", "of": "t"}, {"what": "ticks", "of": "d"},
         {"what": "guide", "of": "b"}, {"what": "letters", "of": "d"},
         {"what": "marks"})  # fmt: skip

TEXTS, OFTEN = ("PEAR & PLUM", "oö8%", "i", "Qi", "&", ":"), (1, 2, 4, 3, 3, 4)
"""What a sheet may say; much of it costs much, and finds little that a letter does not."""


def sheet(seed: int) -> dict[str, Any]:
    """A piece with a random run sheet; figures are such as a maker may type."""
    pick = random.Random(seed)

    def one(number: int) -> dict[str, Any]:
        maybe = pick.random
        made: dict[str, Any] = {
            "id": f"p{number}",
            "tool": pick.choice([*TOOLS]),
            "works": pick.sample(WORKS, pick.randint(1, 3)),
            "repeats": pick.choice([1, 1, 1, 2, 3]),
            "overcut": pick.choice([0, 0, 0.5, 3, 40]),
            "trail": pick.choice([0, 0, 0.25, 1.5]),
            "lead": pick.choice([0, 0, 1, 8]),
            "depth": pick.choice([0, 0, 0.2, 1, 3, 12.5 if maybe() < 0.1 else 2]),
            "step": pick.choice([0, 0.5, 4]),
            "milling": pick.choice(["climb", "conventional"]),
            "filling": {"pitch": pick.choice([0.4, 1, 7]), "angle": pick.uniform(-400, 400),
                        "overscan": pick.choice([0, 3])},
        }  # fmt: skip
        places = [(pick.uniform(-80, 80), pick.uniform(-80, 80)) for _ in range(4)]
        if maybe() < 0.4:
            made["tabs"] = {"number": pick.randint(0, 9), "width": pick.choice([0.2, 2, 15]),
                            "height": pick.choice([0, 0.1, 5]), "apart": pick.choice([0, 0, 7]),
                            "at": pick.choice([[], places])}  # fmt: skip
        if maybe() < 0.3:
            made["begins"] = places
        if maybe() < 0.3:
            made["kerf"] = [{"width": pick.choice([0.1, 0.4, 3]), "edges": maybe() < 0.5,
                             "side": pick.choice(["outward", "inward"]),
                             "of": pick.choice([None, "t", ""])}]  # fmt: skip
        if maybe() < 0.3:
            made["pause"] = pick.choice(["blade in", "(x) ; % G0 X99999", "später weiter"])
        return made

    run = {
        "passes": [one(number) for number in range(pick.randint(1, 4))],
        "mirrored": pick.random() < 0.3,
        "weeding": pick.choice([0, 0, 4]),
        "rehearsal": pick.choice(["off", "off", "off", "path", "bounds"]),
        "marks": pick.choice([0, 0, 3]),
        "at": (20, 20),
        "paper": pick.choice(["one", "a4", "letter"]),
        "gcode": {
            "unit": pick.choice(["mm", "inch"]),
            "arcs": pick.random() < 0.7,
            "preamble": pick.choice(["", "G54\nG4 P0.1"]),
        },
    }
    guides = [
        {"id": "a", "kind": "line", "length": 90, "centre": [0, 10]},
        {"id": "b", "kind": "circle", "diameter": 38, "centre": [0, -30], "output": "cut"},
    ]
    words = [
        {"id": "t", "guide": "a", "face": pick.choice(["lato-bold", "hershey-sans"]),
         "text": pick.choices(TEXTS, OFTEN)[0],
         "height": pick.choice([4, 14])},
        {"id": "d", "guide": "b", "face": "lato-bold", "height": 3, "text": "",
         "dial": {"labels": {"kind": "figures", "first": 1, "last": pick.choice([2, 2, 2, 2, 6])},
                  "ticks": {}}},
    ]  # fmt: skip
    side = 120.0 + 2.0 * ROOM
    return document(
        guides=guides, letterings=words, run=run,
        blank={"kind": "rectangle", "width": side, "height": side},
    )  # fmt: skip


class Runs(Trying):
    """Writes run sheets, and has both machines take them."""

    def try_out(self, seed: int) -> None:
        found = workpiece(sheet(seed)).run
        written = {name: one.write(found) for name, one in RUN_FORMATS.items() if name != "png"}
        for wrong in (
            *_plotted(found, written["plt"]),
            *_burnt(found, written["gcode"]),
            *_read(written["svg"], written["dxf"]),
        ):
            self.note(wrong, seed)


def _read(svg: bytes, dxf: bytes) -> list[str]:
    """Both hold the same lines, as our own readers have them."""
    try:
        lengths = [
            sum(curve_of(outline).length for outline in read(data))
            for read, data in ((read_svg, svg), (read_dxf, dxf))
        ]
    except OutlineFileError:
        return []  # nothing is drawn, or more than a guide is taken from
    same = abs(lengths[0] - lengths[1]) <= 1e-3 * max(lengths)
    return [] if same else ["SVG and DXF are read with other lengths"]


def _plotted(run: Run, data: bytes) -> list[str]:
    plotter = Plotter(_bed(run))
    plotter.take(data)
    wrong = [] if plotter.error == 0 else [f"the plotter has error {plotter.error}"]
    if (run.sheet.rehearsal != "off") and plotter.bed.done:
        wrong.append("the plotter draws in a rehearsal")
    return wrong


def _burnt(run: Run, data: bytes) -> list[str]:
    machine = BeamMachine(_bed(run))
    wrong: set[str] = set()
    for line in data.decode("ascii").splitlines():
        for answer in machine.take(line):
            if answer != "ok":
                wrong.add(f"the beam says {answer.partition(' X')[0]}")
        if machine.state == "paused":
            machine.take("resume")
        if machine.state == "failed":
            break
    if run.sheet.rehearsal != "off" and machine.bed.done:
        wrong.add("the beam burns in a rehearsal")
    return sorted(wrong)


def _bed(run: Run) -> Bed:
    """A bed as large as the blank with room for marks round it: nothing may leave it."""
    side = max(float(ring.max()) for ring in run.blank)
    return Bed(side + 20.0, side + 20.0)


if __name__ == "__main__":
    Runs().main()
