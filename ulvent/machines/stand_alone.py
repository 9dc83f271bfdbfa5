"""A simulated machine that stands until it is told to end."""

from __future__ import annotations

import contextlib
import signal
import sys
from collections.abc import Callable
from typing import Literal

from ulvent.machines.beam_machine import BeamMachine
from ulvent.machines.bed import Bed
from ulvent.machines.listening import Listening
from ulvent.machines.plotter import Plotter
from ulvent.machines.side_door import SideDoor


def stand(
    kind: Literal["plotter", "beam"], bed: Bed, port: int, door: int | None,
    say: Callable[[str], None],
) -> None:  # fmt: skip
    """Serve a machine until Ctrl-C or SIGTERM.

    Raises
    ------
    OSError
        When a port cannot be listened on.
    """
    machine = Plotter(bed) if kind == "plotter" else BeamMachine(bed)
    with Listening(machine, port) as listening:
        side_door = SideDoor(bed, door) if door is not None else None
        # Also where it is started in the background, which leaves Ctrl-C unheard.
        for sign in (signal.SIGINT, signal.SIGTERM):
            signal.signal(sign, signal.default_int_handler)
        say(f"A {kind} listens at 127.0.0.1:{listening.port}  (Ctrl-C stops it)")
        if side_door is not None:
            say(f"Its bed is seen at http://127.0.0.1:{side_door.port}/bed")
        sys.stdout.flush()
        with contextlib.suppress(KeyboardInterrupt):
            listening.wait()
