"""A body that was read from a file, and the face of it that lettering stands on."""

from __future__ import annotations

import base64
import binascii
import struct
import zlib
from typing import Annotated, Self

import numpy as np
from pydantic import Field, model_validator

from ulvent.core.base.arrays import Floats, Integers
from ulvent.core.base.fields import FARTHEST, Model, Size, SizeOrNone, Text, WrongRecipeError
from ulvent.core.base.remembered import remembered
from ulvent.core.guides.blanks import Blank

MOST_TRIANGLES = 20_000
_MOST_PACKED = 1_000_000
_HEAD = struct.Struct("<II")
_RIGID = 1e-6
Figure = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Frame = Annotated[tuple[Figure, ...], Field(min_length=12, max_length=12)]


class ReadBody(Model):
    """A closed surface of triangles from a file; the part comes out where it lay there.

    name
        the file's
    face
        the face laid flat: the piece's blank, as long as the body is its own
    mesh
        its triangles, as `packed` writes them
    frame
        a turn and a move, three rows of four: from the file to where the face is laid out. A flat
        face comes to lie at z = 0, the body below it; the axis of a round one on z, its lower
        edge at 0
    depth
        how deep the body is beneath the face, where it is most, mm
    sag
        how far its facets lie within a round face, mm
    """

    name: Annotated[Text, Field(max_length=200)]
    face: Blank
    mesh: Annotated[str, Field(min_length=1, max_length=_MOST_PACKED)]
    frame: Frame
    depth: Size
    sag: SizeOrNone = 0.0

    @model_validator(mode="after")
    def _can_be_used(self) -> Self:
        unpacked(self.mesh)
        turn = self.matrix[:, :3]
        if not np.allclose(turn @ turn.T, np.eye(3), atol=_RIGID) or np.linalg.det(turn) < 0.0:
            raise WrongRecipeError("frame", "must turn and move without stretching or mirroring")
        return self

    @property
    def matrix(self) -> Floats:
        """(3, 4) from the file to where the face is laid out."""
        return np.array(self.frame).reshape(3, 4)

    @property
    def back(self) -> Floats:
        """(3, 4) from where the face is laid out to the file."""
        turn, move = self.matrix[:, :3], self.matrix[:, 3]
        return np.column_stack([turn.T, -turn.T @ move])


def packed(vertices: Floats, triangles: Integers) -> str:
    """Triangles as text: vertices (n, 3), mm, in single precision, and places (m, 3) in them."""
    head = _HEAD.pack(len(vertices), len(triangles))
    body = head + vertices.astype("<f4").tobytes() + triangles.astype("<u4").tobytes()
    return base64.b64encode(zlib.compress(body, 9)).decode("ascii")


@remembered(8)
def unpacked(text: str) -> tuple[Floats, Integers]:
    """The vertices and triangles that `packed` wrote.

    Raises
    ------
    WrongRecipeError
        Naming `mesh`, where it was not written so.
    """
    most = _HEAD.size + 36 * MOST_TRIANGLES + 12 * MOST_TRIANGLES
    try:
        data = zlib.decompressobj().decompress(base64.b64decode(text, validate=True), most)
        n, m = _HEAD.unpack_from(data)
        if len(data) != _HEAD.size + 12 * (n + m) or not 4 <= m <= MOST_TRIANGLES:
            raise ValueError
    except (binascii.Error, zlib.error, struct.error, ValueError):
        raise WrongRecipeError("mesh", "holds no triangles as they are packed here") from None
    vertices = np.frombuffer(data, "<f4", 3 * n, _HEAD.size).reshape(n, 3).astype(float)
    triangles = np.frombuffer(data, "<u4", 3 * m, _HEAD.size + 12 * n).reshape(m, 3)
    if not (np.abs(vertices) <= FARTHEST).all() or triangles.max() >= n:
        raise WrongRecipeError("mesh", "has triangles whose corners are not there")
    return vertices, triangles.astype(np.int64)
