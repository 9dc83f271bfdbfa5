"""A machine that runs are sent to: what it reaches, what it understands, and where it is."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, ConfigDict, Field

from ulvent.core.base.fields import Identifier, Model, Speed, Text, ToolSize
from ulvent.core.base.outputs import Name
from ulvent.core.recipe.lying import Bed

_TCP = re.compile(r"(?P<host>[A-Za-z0-9.-]+|\[[0-9A-Fa-f:]+\]):(?P<port>\d{1,5})")
_SERIAL = re.compile(r"/dev/[A-Za-z0-9._/-]+|COM\d{1,3}")


def _address(text: str) -> str:
    """An address as it is compared with those that are allowed."""
    text = text.strip()
    tcp = _TCP.fullmatch(text)
    if tcp and 0 < int(tcp["port"]) < 65536:
        return f"{tcp['host'].lower()}:{int(tcp['port'])}"
    if _SERIAL.fullmatch(text) and ".." not in text:
        return text
    raise ValueError("must be a host and a port, as in 127.0.0.1:9100, or a serial device")


Address = Annotated[Text, Field(max_length=200), AfterValidator(_address)]


class Machine(Model):
    """A machine.

    format
        what it understands
    bed
        what it reaches, and where it has its zero
    fastest, deepest
        mm per second, and mm below the sheet; nothing: no limit is known
    address
        a host and a port, or a serial device
    baud
        signs per second of a serial line, times ten
    """

    # Routes take it as it is, and want it built.
    model_config = ConfigDict(defer_build=False)

    id: Identifier
    name: Name
    format: Literal["plt", "gcode"]
    bed: Bed
    fastest: Speed | None = None
    deepest: ToolSize | None = None
    address: Address
    baud: Annotated[int, Field(ge=300, le=4_000_000)] = 9600

    @property
    def tcp(self) -> tuple[str, int] | None:
        """Host and port, where it is reached by TCP."""
        found = _TCP.fullmatch(self.address)
        return (found["host"].strip("[]"), int(found["port"])) if found else None
