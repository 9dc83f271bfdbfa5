"""The type case: the shipped faces, by id, each loaded once when first asked for."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from ulvent.core.base.errors import FaceError
from ulvent.core.faces import Face
from ulvent.formats.fonts.font_file import read_font

FONTS = Path(__file__).resolve().parent / "fonts"


@dataclass(frozen=True)
class ShippedFace:
    """A catalogue entry: what the face is called, what it is good for, its licence."""

    id: str
    name: str
    file: str
    kind: str
    licence: str
    licence_file: str

    @property
    def licence_text(self) -> str:
        return (FONTS / "licences" / self.licence_file).read_text(encoding="utf-8")


@cache
def catalogue() -> dict[str, ShippedFace]:
    """The shipped faces by id, in the order in which they are offered."""
    entries = json.loads((FONTS / "faces.json").read_text(encoding="utf-8"))
    return {entry["id"]: ShippedFace(**entry) for entry in entries}


@cache
def shipped_face(face_id: str) -> Face:
    """The shipped face with this id.

    Raises
    ------
    FaceError
        When there is none.
    """
    entry = catalogue().get(face_id)
    if entry is None:
        raise FaceError(f"there is no face “{face_id}”; shipped are {', '.join(catalogue())}")
    return load_face(FONTS / entry.file, entry.name)


def shipped_faces() -> Iterator[tuple[str, Face]]:
    """All shipped faces with their ids; each is read when it is come to."""
    return ((face_id, shipped_face(face_id)) for face_id in catalogue())


def load_face(path: Path, name: str | None = None) -> Face:
    """A face from a font file: TTF, OTF, WOFF, WOFF2, an SVG font, or a `.jhf` vertex file.

    Raises
    ------
    FaceError
        When the file is not there or cannot be used.
    """
    try:
        data = path.read_bytes()
    except OSError as error:
        raise FaceError(f"the font file {path.name} cannot be read: {error.strerror}") from error
    return read_font(data, name or path.stem)


def face_named(face_id: str, beside: Path | None = None) -> Face:
    """A shipped face by id or, where `beside` is given, a font file in that folder."""
    if beside is not None and face_id not in catalogue() and Path(face_id).suffix:
        return load_face(beside / face_id)
    return shipped_face(face_id)
