"""A line to a machine, by TCP or a serial device: words there, lines back."""

from __future__ import annotations

import contextlib
import socket
import time
from collections.abc import Callable
from typing import Protocol

import serial

from ulvent.core.base.errors import UlventError
from ulvent.core.recipe.machine import Machine

_LOOK_SECONDS = 0.05
_REACHED_SECONDS = 10.0
_AT_ONCE = 4096
_MOST_HEARD = 65536


class LinkError(UlventError):
    """The machine cannot be reached, or is no longer."""


class _Port(Protocol):
    """Bytes there and back; what does not work raises OSError, as pyserial's own errors are."""

    def read(self) -> bytes:
        """What has come; nothing where nothing comes in a moment."""

    def write(self, data: bytes) -> None: ...

    def close(self) -> None: ...


class _Tcp:
    def __init__(self, host: str, port: int) -> None:
        self._socket = socket.create_connection((host, port), _REACHED_SECONDS)

    def read(self) -> bytes:
        self._socket.settimeout(_LOOK_SECONDS)
        try:
            data = self._socket.recv(_AT_ONCE)
        except TimeoutError:
            return b""
        if not data:
            raise ConnectionResetError
        return data

    def write(self, data: bytes) -> None:
        self._socket.settimeout(_REACHED_SECONDS)
        self._socket.sendall(data)

    def close(self) -> None:
        self._socket.close()


class _Serial:
    def __init__(self, machine: Machine) -> None:
        self._device = serial.Serial(
            machine.address, machine.baud, timeout=_LOOK_SECONDS, write_timeout=_REACHED_SECONDS
        )

    def read(self) -> bytes:
        data: bytes = self._device.read(max(1, min(self._device.in_waiting, _AT_ONCE)))
        return data

    def write(self, data: bytes) -> None:
        self._device.write(data)

    def close(self) -> None:
        self._device.close()


class Link:
    """An open line; a context manager."""

    def __init__(self, machine: Machine) -> None:
        self._heard = b""
        try:
            self._port: _Port = _Tcp(*machine.tcp) if machine.tcp else _Serial(machine)
        except (OSError, ValueError) as error:
            raise LinkError(f"“{machine.name}” does not answer at {machine.address}") from error

    def __enter__(self) -> Link:
        return self

    def __exit__(self, *_: object) -> None:
        with contextlib.suppress(OSError):
            self._port.close()

    def say(self, words: str) -> None:
        """Send words.

        Raises
        ------
        LinkError
            When the line is cut.
        """
        data = words.encode("ascii", "replace")
        try:
            for at in range(0, len(data), _AT_ONCE):
                self._port.write(data[at : at + _AT_ONCE])
        except OSError as error:
            raise LinkError("the line to the machine was cut") from error

    def line(self, seconds: float, look: Callable[[], None]) -> str | None:
        """The next line that comes back; none where none comes in time.

        `look` is called again and again while nothing comes; it may raise.

        Raises
        ------
        LinkError
            When the line is cut.
        """
        ends = time.monotonic() + seconds
        while True:
            text, found, rest = self._split()
            if found:
                self._heard = rest
                return text
            look()
            if time.monotonic() > ends:
                return None
            try:
                self._heard += self._port.read()
            except OSError as error:
                raise LinkError("the line to the machine was cut") from error
            if len(self._heard) > _MOST_HEARD:
                raise LinkError("the machine answers with something that is not a line")

    def _split(self) -> tuple[str, bool, bytes]:
        heard = self._heard.lstrip(b"\r\n")
        ends = [at for at in (heard.find(b"\r"), heard.find(b"\n")) if at >= 0]
        if not ends:
            return "", False, heard
        return heard[: min(ends)].decode("ascii", "replace").strip(), True, heard[min(ends) + 1 :]
