"""Random pieces through all that is made of one, in a process of its own.

`python -W error -m tests.random_pieces PIECES [SEED]`: each is laid out, shown, proofed, written in
every format, and changed by some of the acts. Prints a line of JSON: how many were sound, how many
acts were done, the most processor time that one of these took, the most memory of the process,
and, by their kind and place, errors that are not the project's own, each with the first
seed that met it.
"""

from __future__ import annotations

import json
import logging
import sys
import time
from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter, ValidationError

from tests.fuzzing import Fuzz, most_megabytes, told
from ulvent.core.acts import AnyAct, perform
from ulvent.core.base.errors import UlventError
from ulvent.core.recipe import Piece
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.crew.inside import bound_memory, tidied
from ulvent.formats.out import FORMATS
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.shipped_faces import shipped_face, shipped_faces
from ulvent.web.scene import Painting, new_shapes

MOST_BYTES = 300_000_000
ACTS_A_PIECE = 6
ODD = (0.0, 5e-324, -5e-324, 1e-300, 1e-9, 1e9, -1e9, 1e300, 99999.9, 360.0, 0.01)
ODD_SHARE = 0.04
PIECE = Piece.model_json_schema()
ACTS = TypeAdapter(AnyAct).json_schema()


class _Odd(Fuzz):
    """With figures now and then that nobody would type."""

    def _plain(self, kind: str | None, schema: dict[str, Any], name: str) -> Any:
        if kind == "number" and self.random.random() < ODD_SHARE:
            return self.random.choice(ODD)
        return super()._plain(kind, schema, name)


class Trying:
    """Counts what is done, and keeps what went wrong."""

    def __init__(self) -> None:
        self.sound = self.acted = 0
        self.errors: dict[str, tuple[int, str]] = {}
        self.slowest: dict[str, tuple[float, int]] = {}

    def piece(self, seed: int) -> None:
        tidied()  # as a worker does that has grown
        fuzz = _Odd(seed, PIECE)
        document = fuzz.piece()
        shop = Workshop(shipped_face, shipped_faces)
        work: Workpiece | None = self._done("parse", seed, lambda: shop.of_document(document))
        if work is None or self._done("layout", seed, lambda: work.layout) is None:
            return
        self.sound += 1
        self._done("scene", seed, lambda: _shown(work))
        self._done("proof", seed, lambda: work.proof)
        for format in FORMATS.values():
            self._done(f"write {format.name}", seed, lambda f=format: f.write(work, True))
        for one in RUN_FORMATS.values():
            self._done(f"run to {one.name}", seed, lambda f=one: f.write(work.run))
        self._act(seed, fuzz, shop, work.piece)

    def _act(self, seed: int, fuzz: Fuzz, shop: Workshop, piece: Piece) -> None:
        doing = _Odd(seed, ACTS)
        doing.guides, doing.letterings = fuzz.guides, fuzz.letterings
        for one in doing.random.sample(ACTS["oneOf"], ACTS_A_PIECE):
            value = doing.value(one)
            try:
                act = TypeAdapter(AnyAct).validate_python(value)
            except ValidationError:
                continue
            name = value["act"]
            done = self._done(name, seed, lambda a=act: perform(a, piece, shipped_face))
            if done is not None:
                self.acted += 1
                self._done(f"{name} laid out", seed, lambda d=done: _shown(shop.of(d.piece)))

    def _done(self, what: str, seed: int, task: Callable[[], Any]) -> Any:
        started = time.process_time()
        try:
            return task()
        except UlventError:
            return None
        except Exception as error:  # noqa: BLE001  all of them are what is looked for
            key = f"{what}: {told(error)}"
            count, first = self.errors.get(key, (0, str(seed)))
            self.errors[key] = count + 1, first
            return None
        finally:
            took = time.process_time() - started
            if took > self.slowest.get(what, (0.0, 0))[0]:
                self.slowest[what] = round(took, 2), seed


def _shown(work: Workpiece) -> str:
    new_shapes(work.layout, set())
    return Painting(work.layout, "g0").scene(work.findings).model_dump_json()


def main() -> None:
    logging.disable(logging.CRITICAL)
    count, *seed = map(int, sys.argv[1:])
    first = seed[0] if seed else 0
    bound_memory(MOST_BYTES)
    trying = Trying()
    for number in range(first, first + count):
        trying.piece(number)
    slow = sorted(trying.slowest.items(), key=lambda pair: -pair[1][0])[:5]
    print(
        json.dumps(
            {"sound": trying.sound, "acted": trying.acted, "slowest": slow,
             "memory_mb": most_megabytes(), "errors": trying.errors}
        )
    )  # fmt: skip


if __name__ == "__main__":
    main()
