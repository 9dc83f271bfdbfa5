"""A simulated machine behind a TCP port on loopback, one sender at a time."""

from __future__ import annotations

import contextlib
import socket
import threading

from ulvent.machines.beam_machine import BeamMachine
from ulvent.machines.bed import CutOffError
from ulvent.machines.plotter import Plotter

_AT_ONCE = 4096
_MOST_OF_A_LINE = 1024


class Listening:
    """Serves a machine until it is closed; a context manager.

    port
        where it listens, chosen by the system where it was 0
    """

    def __init__(self, machine: Plotter | BeamMachine, port: int = 0) -> None:
        self.machine = machine
        self._socket = socket.create_server(("127.0.0.1", port), backlog=4)
        self.port: int = self._socket.getsockname()[1]
        self._closed = threading.Event()
        self._sender: socket.socket | None = None
        self._thread = threading.Thread(target=self._serve, name=f"machine {self.port}")
        self._thread.start()

    def __enter__(self) -> Listening:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def wait(self) -> None:
        """Until it is closed."""
        self._thread.join()

    def close(self) -> None:
        self._closed.set()
        for one in (self._socket, self._sender):
            if one is not None:
                _shut(one)
        self._thread.join()

    def _serve(self) -> None:
        while not self._closed.is_set():
            try:
                sender, _ = self._socket.accept()
            except OSError:
                return
            self._sender = sender
            # A sender that is gone, or is sent away, is followed by the next one.
            with contextlib.suppress(OSError, CutOffError):
                self._listen(sender)
            self._sender = None
            _shut(sender)

    def _listen(self, sender: socket.socket) -> None:
        rest = b""
        while data := sender.recv(_AT_ONCE):
            if isinstance(self.machine, Plotter):
                sender.sendall(self.machine.take(data))
                continue
            *lines, rest = (rest + data).split(b"\n")
            for line in lines:
                for answer in self.machine.take(line.decode("ascii", "replace")):
                    sender.sendall(f"{answer}\n".encode())
            if len(rest) > _MOST_OF_A_LINE:
                sender.sendall(b"error: a line is too long\n")
                return


def _shut(one: socket.socket) -> None:
    with contextlib.suppress(OSError):  # it was never connected, or is no more
        one.shutdown(socket.SHUT_RDWR)
    one.close()
