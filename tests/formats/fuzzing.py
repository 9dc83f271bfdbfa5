"""Mutated files through the two readers, in a process of its own.

`python -m tests.formats.fuzzing N` takes N files, half of either kind.
Prints one line of JSON: how many files of each kind were read, how many were refused,
the most processor time that one took, and the most memory of the process.
"""

from __future__ import annotations

import contextlib
import json
import logging
import random
import sys
import time
from pathlib import Path

from tests.formats import samples
from ulvent.core.base.errors import CurveError
from ulvent.core.outlines import curve_of
from ulvent.formats.dxf_reading import read_dxf
from ulvent.formats.outline_file import OutlineFileError
from ulvent.formats.svg_reading import read_svg

_MARKS = (b"1e309", b"nan", b"-", b"999999999", b"0", b"\0", b"e", b"<use href='#a'/>", b"\n")


def mutated(chance: random.Random, source: bytes) -> bytes:
    """A file with one to eight changes: bytes flipped, cut out, doubled, or put in."""
    data = bytearray(source)
    for _ in range(chance.randint(1, 8)):
        at = chance.randrange(len(data)) if data else 0
        match chance.randrange(5):
            case 0 if data:
                data[at] = chance.randrange(256)
            case 1:
                del data[at : at + chance.randint(1, 200)]
            case 2 if data:
                begin = chance.randrange(len(data))
                data[at:at] = data[begin : begin + chance.randint(1, 300)]
            case 3:
                data[at : at + 1] = chance.choice(_MARKS)
            case _:
                del data[at + 1 :]
    return bytes(data)


def main(count: int) -> None:
    logging.disable(logging.CRITICAL)
    chance = random.Random(20261125)
    sources = {
        read_svg: [samples.EVERYTHING, samples.ARCS01, samples.ROUNDED, samples.CUBIC01],
        read_dxf: [samples.dxf()[0], samples.dxf(1)[0]],
    }
    counts = {"read": 0, "refused": 0}
    slowest = 0.0
    for read, files in sources.items():
        for index in range(count // 2):
            data = mutated(chance, files[index % len(files)])
            started = time.process_time()
            try:
                for outline in read(data):
                    with contextlib.suppress(CurveError):
                        _ = curve_of(outline).length
                counts["read"] += 1
            except OutlineFileError:
                counts["refused"] += 1
            slowest = max(slowest, time.process_time() - started)
    # Not getrusage: what it says begins with what the process that started this one had.
    status = Path("/proc/self/status").read_text(encoding="ascii")
    memory = int(status.partition("VmHWM:")[2].split()[0]) / 1024
    print(json.dumps({**counts, "slowest_seconds": slowest, "memory_mb": memory}))


if __name__ == "__main__":
    main(int(sys.argv[1]))
