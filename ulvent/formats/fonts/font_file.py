"""Font files that a maker adds: told apart, read, and tried out before they are trusted.

A file is first drawn from end to end in a process of its own with limits on time and
memory (`font_trial`), since a hostile file can make any reader run wild. Only what
comes through that is read in the application.
"""

from __future__ import annotations

import json
import subprocess
import sys
from dataclasses import asdict, dataclass, field
from typing import Literal

from ulvent.core.base.errors import FaceError, FontFileError
from ulvent.core.faces import Face, OutlineFace

LARGEST_FONT = 16_000_000
"""Bytes of the largest font file that is taken."""
TRIAL_SECONDS = 30
TRIAL_MEMORY = 1_500_000_000

FontFormat = Literal["ttf", "otf", "woff", "woff2", "svg", "jhf"]

_SIGNATURES: tuple[tuple[bytes, FontFormat], ...] = (
    (b"\x00\x01\x00\x00", "ttf"),
    (b"true", "ttf"),
    (b"OTTO", "otf"),
    (b"wOFF", "woff"),
    (b"wOF2", "woff2"),
)


@dataclass(frozen=True)
class FontFacts:
    """What is said of a font file.

    licence
        what its licence bits allow, in words; empty where the format has none
    """

    name: str
    format: FontFormat
    glyphs: int
    characters: int
    single_stroke: bool
    licence: str
    traits: list[str] = field(default_factory=list)


def font_format(data: bytes) -> FontFormat:
    """Which kind of font file this is, by its first bytes.

    Raises
    ------
    FaceError
        When it is empty, too large, or none that is read.
    """
    if not data.strip():
        raise FaceError("the file is empty")
    if len(data) > LARGEST_FONT:
        raise FaceError(f"the file is larger than {LARGEST_FONT // 1_000_000} MB")
    for signature, kind in _SIGNATURES:
        if data.startswith(signature):
            return kind
    if data.startswith(b"ttcf"):
        raise FaceError("the file is a collection of fonts; add one font of it as a file")
    head = data[:4000].lstrip()
    if head.startswith((b"<", b"\xef\xbb\xbf<")):
        return "svg"
    if head[:5].strip().isdigit() or head.startswith(b"#"):
        return "jhf"
    raise FaceError("not a font file: TTF, OTF, WOFF, WOFF2, an SVG font, or a .jhf vertex file")


def read_font(data: bytes, name: str) -> Face:
    """A face from the bytes of a font file of any kind that is read.

    Raises
    ------
    FaceError
        With the reason.
    """
    kind = font_format(data)
    # Each reader is imported when it is needed: most files are of one kind.
    if kind == "svg":
        from ulvent.formats.fonts.svg_font import read_svg_font

        return read_svg_font(data, name)
    if kind == "jhf":
        from ulvent.formats.fonts.jhf import read_jhf

        return read_jhf(data, name)
    return OutlineFace(data)


def try_font(data: bytes, name: str) -> FontFacts:
    """Read and draw a font file in a process of its own, and say what it is.

    Raises
    ------
    FontFileError
        With the reason why it cannot be used.
    """
    try:
        return _tried(data, name)
    except FaceError as error:
        raise FontFileError(str(error)) from error


def _tried(data: bytes, name: str) -> FontFacts:
    font_format(data)
    command = [sys.executable, "-m", "ulvent.formats.fonts.font_trial", name]
    try:
        done = subprocess.run(
            command, input=data, capture_output=True, timeout=2 * TRIAL_SECONDS, check=False
        )
    except subprocess.TimeoutExpired as error:
        raise FaceError("the file takes too long to draw") from error
    try:
        told = json.loads(done.stdout)
    except ValueError:
        # The process was ended by one of its limits, or by the file itself.
        raise FaceError(
            "the file could not be drawn within the time and memory that a font may take"
        ) from None
    if "reason" in told:
        raise FaceError(told["reason"])
    return FontFacts(**told)


def as_json(facts: FontFacts) -> str:
    return json.dumps(asdict(facts))
