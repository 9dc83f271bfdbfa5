"""Tries out a font file: reads it from standard input, draws all of it, prints what it is.

Run as a process of its own, `python -m ulvent.formats.fonts.font_trial NAME`, so that no file
can hurt more than that process. Prints JSON: the facts, or a reason.
"""

from __future__ import annotations

import contextlib
import json
import resource
import sys
from io import BytesIO

import numpy as np
from fontTools.ttLib import TTFont

from ulvent.core.base.errors import FaceError
from ulvent.core.faces import Face
from ulvent.core.faces.traits import traits
from ulvent.formats.fonts.font_file import (
    TRIAL_MEMORY,
    TRIAL_SECONDS,
    FontFacts,
    as_json,
    font_format,
    read_font,
)

MOST_GLYPHS = 65_535
MOST_POINTS = 20_000
_FARTHEST = 20.0
"""A glyph reaches no farther than this many ems."""

_RESTRICTED, _PREVIEW, _EDITABLE = 0x0002, 0x0004, 0x0008
_NO_SUBSETTING, _BITMAP_ONLY = 0x0100, 0x0200


def main() -> None:
    resource.setrlimit(resource.RLIMIT_CPU, (TRIAL_SECONDS, TRIAL_SECONDS))
    resource.setrlimit(resource.RLIMIT_AS, (TRIAL_MEMORY, TRIAL_MEMORY))
    data = sys.stdin.buffer.read()
    try:
        told = as_json(facts(data, sys.argv[1]))
    except FaceError as error:
        told = json.dumps({"reason": str(error)})
    except MemoryError:
        told = json.dumps({"reason": "the file takes too much memory to draw"})
    except Exception as error:  # noqa: BLE001
        # This process is there to find out what a file does to its readers.
        told = json.dumps({"reason": f"the file cannot be read ({type(error).__name__})"})
    sys.stdout.write(told)


def facts(data: bytes, name: str) -> FontFacts:
    """What a font file is, once all of it has been drawn."""
    kind = font_format(data)
    face = read_font(data, name)
    licence, characters = "", 0
    if kind in ("svg", "jhf"):
        glyphs = characters = len(getattr(face, "characters", ""))
    else:
        table = TTFont(BytesIO(data), lazy=True)
        glyphs = int(table["maxp"].numGlyphs)
        characters = len(table.getBestCmap() or {})
        licence = licence_words(int(getattr(table.get("OS/2"), "fsType", 0)))
    if not 0 < glyphs <= MOST_GLYPHS:
        raise FaceError(f"the file has {glyphs} glyphs; 1 to {MOST_GLYPHS} are taken")
    _draw_all(face, glyphs)
    return FontFacts(
        name=" ".join(face.name.split())[:120] or name,
        format=kind,
        glyphs=glyphs,
        characters=characters,
        single_stroke=face.single_stroke,
        licence=licence,
        traits=list(traits(face)),
    )


def _draw_all(face: Face, glyphs: int) -> None:
    em = face.metrics.units_per_em
    if not (np.isfinite(em) and em > 0.0 and face.metrics.cap_height > 0.0):
        raise FaceError("the file's own measures are not usable")
    drawn = 0
    for glyph in range(glyphs):
        try:
            outline = face.glyph_outline(glyph)
        except FaceError:
            raise
        except Exception as error:
            # Whatever the drawing code meets in broken bytes.
            raise FaceError(f"glyph {glyph} cannot be drawn ({type(error).__name__})") from error
        if not outline:
            continue
        drawn += 1
        if len(outline.points) > MOST_POINTS:
            raise FaceError(
                f"glyph {glyph} has {len(outline.points)} points; at most {MOST_POINTS}"
            )
        if not np.isfinite(outline.points).all() or np.abs(outline.points).max() > _FARTHEST * em:
            raise FaceError(f"glyph {glyph} reaches farther than {_FARTHEST:g} times the type size")
    if not drawn:
        raise FaceError("the file has no outlines: nothing could be drawn")


def licence_words(bits: int) -> str:
    """What OS/2 fsType says, in words (OpenType specification, OS/2 table)."""
    use = "installable embedding: no restriction stated"
    for bit, words in (
        (_RESTRICTED, "restricted: ask the owner of the font before you embed it"),
        (_PREVIEW, "preview and print embedding only"),
        (_EDITABLE, "editable embedding"),
    ):
        if bits & bit:
            use = words
            break
    more = [
        words
        for bit, words in ((_NO_SUBSETTING, "no subsetting"), (_BITMAP_ONLY, "bitmaps only"))
        if bits & bit
    ]
    return ", ".join([use, *more])


if __name__ == "__main__":
    with contextlib.suppress(BrokenPipeError):
        main()
