"""From a lettering to the lines it is set in: its own, its laps, its repeats, its labels."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from ulvent.core.base.errors import CurveError, FaceError, wrong_field
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, Line, Parallel
from ulvent.core.faces import Face, MarkShape, Style, StyledFace, styled
from ulvent.core.recipe import MOST_LETTERS, Fill, Laps, Lettering, Mark, Nudge
from ulvent.core.recipe.arrangements import LINE_TO_LINE
from ulvent.core.setting.letters.dials import outside
from ulvent.core.setting.letters.words import (
    Words,
    growing,
    grown,
    mark_words,
    nudges_on,
    scale_of,
    words_of,
)
from ulvent.core.setting.lines.labels import set_dial
from ulvent.core.setting.lines.levels import level_stretches
from ulvent.core.setting.rows.arrange import (
    SHARE_BEFORE,
    Row,
    in_a_row,
    reading_station,
    round_and_round,
    usual_joint,
)
from ulvent.core.setting.rows.placing import baseline_curve, place_row
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing

MOST_LAPS = 40
_MOST_GROWTH = 50.0
"""Words do not grow by more than e to this power; more is no lettering."""
_RADII_TRIED = 200
_MOST_OPENED = 0.4
"""A filled line's gaps are opened by at most so many letters' heights."""
_FILLED_PITCH = 1.02


def set_lettering(lettering: Lettering, standing: Standing, face: Face) -> tuple[Setting, ...]:
    """Place every letter of `lettering` by its own figures, one setting a line.

    A fit is not solved here: `fits` does that. It only says where the words are held.

    Raises
    ------
    CurveError
        Where the guide bends too tightly for the touch line and standoff.
    PieceError
        Where another field asks for what guide or face does not allow.
    """
    try:
        face = styled(face, style_of(lettering))
    except FaceError as error:
        raise wrong_field("axes", str(error)) from error
    nudges = nudges_on(lettering)
    if lettering.dial is not None:
        return (set_dial(lettering, lettering.dial, standing, face),)
    if lettering.fill is not None:
        return tuple(
            replace(setting, nudges=nudges)
            for setting in _filled(lettering, lettering.fill, standing, face, nudges)
        )
    settings: list[Setting] = []
    offset = 0
    for number, text in enumerate(lettering.text.split("\n")):
        line = _line(lettering, number, text)
        if lettering.laps is not None:
            settings.extend(_laps(line, lettering.laps, standing, face, nudges, offset,
                                  len(settings)))  # fmt: skip
        else:
            settings.append(
                _set_line(line, len(settings), standing, face, nudges, offset, settings)
            )
        offset += len(text) + 1
    return tuple(replace(setting, nudges=nudges) for setting in settings)


def style_of(lettering: Lettering) -> Style:
    """What a lettering asks of its face."""
    separator = lettering.repeat.separator if lettering.repeat else None
    marks = [("repeat.separator", separator), ("ends", lettering.ends)]
    return Style(
        axes=tuple(sorted(lettering.axes.items())),
        features=tuple(sorted(lettering.features.items())),
        width=lettering.width,
        slant=lettering.slant,
        mirrored=lettering.mirrored,
        marks=tuple(_shape(field, mark) for field, mark in marks if mark is not None),
    )


def _shape(field: str, mark: Mark) -> MarkShape:
    outline: tuple[str, tuple[tuple[float, float], ...]] = ("", ())
    if mark.kind == "outline":
        assert mark.d is not None
        try:
            outline = _outline_of(mark.d)
        except CurveError as error:
            raise wrong_field(f"{field}.d", str(error)) from error
    return MarkShape(mark.kind, mark.letter, outline, mark.size, mark.raised)


@lru_cache(maxsize=64)
def _outline_of(data: str) -> tuple[str, tuple[tuple[float, float], ...]]:
    """Path data as operations and points."""
    # Imported when it is needed: few letterings have a mark from a file.
    from ulvent.core.guides.pathdata import outline_from_path_data

    outline = outline_from_path_data(data)
    return outline.operations, tuple((x, y) for x, y in outline.points.tolist())


def _line(lettering: Lettering, number: int, text: str) -> Lettering:
    """One line of a lettering as a lettering of its own."""
    if number == 0 and not lettering.lines and "\n" not in lettering.text:
        return lettering
    choice = lettering.lines[number] if number < len(lettering.lines) else None
    pitch = lettering.line_pitch or LINE_TO_LINE * lettering.height
    return lettering.model_copy(
        update={
            "text": text,
            "height": (choice and choice.height) or lettering.height,
            "align": (choice and choice.align) or lettering.align,
            "standoff": lettering.standoff - number * pitch,
        }
    )


# ------------------------------------------------------------------------ a line


def _set_line(
    line: Lettering,
    number: int,
    standing: Standing,
    face: Face,
    nudges: dict[int, Nudge],
    offset: int,
    before: Sequence[Setting] = (),
) -> Setting:
    baseline = baseline_curve(line, standing.guide, face)
    anchor = _anchor(line, standing, baseline)
    words = words_of(line, face, nudges, line.text, offset)
    if line.end_height is not None:
        words = grown(words, line.end_height, line.height)
    elif line.with_guide:
        words = _grown_with_guide(words, line, standing, baseline, anchor)
    marks = _marks(line, face)
    if line.repeat is not None:
        unit, separator = words, marks.get("separator")
        if not line.text.strip() and separator is not None:
            unit, separator = separator, None
        row = round_and_round(line, line.repeat, face, unit, separator, baseline, anchor)
    else:
        row = _with_ends(line, face, words, marks.get("ends"), anchor)
    return place_row(line, number, face, standing, baseline, row, anchor, before[-1:])


def _anchor(line: Lettering, standing: Standing, baseline: Parallel) -> float:
    """The station at which a line is held; a fit has it between the ends that it is to fit."""
    fit = line.fit
    if fit is not None and (fit.part is not None or not standing.shared or fit.kind == "gap"):
        window = fit_window(line, standing.guide, baseline)
        if window is not None:
            begin, end = window
            return begin + fit.margin + SHARE_BEFORE[line.align] * (end - begin - 2.0 * fit.margin)
    return float(baseline.carry(np.array([reading_station(line, standing.guide)]))[0])


def fit_window(line: Lettering, guide: Curve, baseline: Parallel) -> tuple[float, float] | None:
    """From where to where on its baseline a fitted line may stand; nothing on a whole ring."""
    part = line.fit and line.fit.part
    if not part:
        return None if baseline.closed else (0.0, baseline.length)
    begin, end = part
    if guide.closed and end < begin:
        end += guide.length
    if line.reading == "against":
        begin, end = guide.length - end, guide.length - begin
    first, last = baseline.carry(np.array([begin, end])).tolist()
    return first, last


def _marks(line: Lettering, face: Face) -> dict[str, Words]:
    """The marks of a line as runs, by what they are for."""
    if not isinstance(face, StyledFace):
        return {}
    uses = [("separator", line.repeat.separator if line.repeat else None), ("ends", line.ends)]
    given = [use for use, mark in uses if mark is not None]
    return {use: mark_words(line, face, face.mark(index)) for index, use in enumerate(given)}


def _with_ends(line: Lettering, face: Face, words: Words, ends: Words | None, anchor: float) -> Row:
    runs = [words] if ends is None else [ends, words, ends]
    joint = usual_joint(line, face, beside_mark=True) if ends else 0.0
    return in_a_row(runs, joint, anchor, SHARE_BEFORE[line.align])


def _grown_with_guide(
    words: Words, line: Lettering, standing: Standing, baseline: Parallel, anchor: float
) -> Words:
    """Words that grow as the distance from a growing spiral's centre does.

    That distance r goes evenly with the station: r(m) = r₀ + g·m. Height keeps its ratio
    to r, so the words grow by the share g/r₀ a mm, with r₀ where they begin.
    """
    if standing.centre is None:
        raise wrong_field("with_guide", "needs a growing spiral")
    ends = baseline.points([0.0, baseline.length]) - np.array(standing.centre)
    inner, outer = np.hypot(*ends.T).tolist()
    gain = (outer - inner) / baseline.length
    held = inner + gain * anchor
    first = _radius_at_begin(gain * words.length, held, SHARE_BEFORE[line.align])
    if first is None or gain * words.length / first > _MOST_GROWTH:
        raise wrong_field("with_guide", "words this long do not fit when they grow so fast")
    return growing(words, gain / first)


def _radius_at_begin(gained: float, held: float, share: float) -> float | None:
    """r₀ of growing words that are held, by a share of their length, where r is `held`.

    Words of unchanged length U grow to r₀·(e^(gU/r₀) − 1)/g, so with `gained` for gU

        r₀ + share·r₀·(e^(gained/r₀) − 1) = held

    Where r grows this has two solutions or none; the larger is the one that is meant.
    """
    if share == 0.0:
        return held

    def miss(first: float) -> float:
        return float(first * (1.0 + share * np.expm1(gained / first)) - held)

    farthest = held / _MOST_GROWTH if gained > 0.0 else held * _MOST_GROWTH
    tried = np.geomspace(held, farthest, _RADII_TRIED).tolist()
    for before, after in zip(tried, tried[1:], strict=False):
        if miss(before) * miss(after) <= 0.0:
            from scipy.optimize import brentq

            return float(brentq(miss, before, after, xtol=JOINT * 1e-3))
    return None


# ------------------------------------------------------------------ a shape filled


def _filled(
    lettering: Lettering, fill: Fill, standing: Standing, face: Face, nudges: dict[int, Nudge]
) -> list[Setting]:
    """The words over all stretches that the inside of the guide has room for."""
    if not standing.guide.closed:
        raise wrong_field("fill", "needs a closed guide: an open one has no inside")
    scale = scale_of(lettering, face)
    # Tails of one line and heads of the next do not meet.
    clear = _FILLED_PITCH * scale * (face.metrics.ascender - face.metrics.descender)
    pitch = fill.pitch or max(clear, LINE_TO_LINE * lettering.height)
    if fill.way == "around":
        heads_out = outside(standing.guide) * (1.0 if lettering.reading == "along" else -1.0) > 0.0
        reach = face.metrics.ascender if heads_out else face.metrics.descender
        plain = lettering.model_copy(
            update={"touch": "baseline", "standoff": -reach * scale - (
                fill.margin if heads_out else -fill.margin
            ), "text": lettering.text.replace("\n", " ")}
        )  # fmt: skip
        return _laps(plain, Laps(pitch=pitch), standing, face, nudges, 0, 0)
    return _FilledLines(lettering, fill, pitch, standing, face, nudges).settings()


class _FilledLines:
    """Words going from stretch to stretch of a shape, line by line."""

    def __init__(
        self, lettering: Lettering, fill: Fill, pitch: float, standing: Standing, face: Face,
        nudges: dict[int, Nudge],
    ) -> None:  # fmt: skip
        scale = scale_of(lettering, face)
        band = (scale * face.metrics.descender, scale * face.metrics.ascender)
        self._stretches = level_stretches(standing.guide, fill.margin, pitch, band, fill.angle)
        self._plain = lettering.model_copy(
            update={"touch": "baseline", "standoff": 0.0, "at": 0.0, "at_in": "mm",
                    "reading": "along"}
        )  # fmt: skip
        self._lettering, self._fill, self._face, self._nudges = lettering, fill, face, nudges
        self._found: list[Setting] = []

    def settings(self) -> list[Setting]:
        if not self._stretches:
            raise wrong_field("fill.margin", "leaves no room for a line: the shape is too small")
        waiting, at = self._stretches, 0
        for text in self._lettering.text.split("\n"):
            waiting = self._paragraph(self._again_and_again(text), at, waiting)
            at += len(text) + 1
        return self._found or [self._line("", 0, self._stretches[0])]

    def _again_and_again(self, text: str) -> str:
        """The words as often as the shape has room for, and once more."""
        if not self._fill.again or not text.strip():
            return text
        own = words_of(self._plain, self._face, self._nudges, text, 0).length
        room = sum(stretch.length for stretch in self._stretches)
        copies = 1 + math.ceil(room / max(own, JOINT))
        return " ".join([text] * min(copies, 1 + MOST_LETTERS // len(text)))

    def _paragraph(self, text: str, offset: int, waiting: list[Line]) -> list[Line]:
        """Set one paragraph; the stretches that are left."""
        rest, at = text, offset
        while rest and waiting:
            stretch, *waiting = waiting
            count = _fitting(self._plain, self._face, self._nudges, rest, at, stretch.length)
            split = count < len(rest) and not rest[count - 1].isspace()
            if split and (self._fill.again or any(o.length > stretch.length for o in waiting)):
                continue  # Too short for the next word; a longer one comes, or none is needed.
            line = rest[:count]
            self._found.append(self._line(line, at, stretch, last=count == len(rest)))
            rest, at = rest[count:], at + count
        if rest and not self._fill.again and self._found:
            # What has no room stands on the last line, and overflows.
            last = self._found.pop()
            start = at - len(last.lettering.text)
            self._found.append(
                self._line(last.lettering.text + rest, start, self._stretches[-1], last=True)
            )
        return waiting

    def _line(self, text: str, at: int, stretch: Line, last: bool = False) -> Setting:
        shown = text.rstrip()
        line = self._plain.model_copy(update={"text": shown})
        if self._fill.even and not last:
            line = line.model_copy(update={"tracking": self._opened(line, shown, at, stretch)})
        place = {"start": 0.0, "centre": stretch.length / 2.0, "end": stretch.length}[line.align]
        if self._fill.even and not last:
            line, place = line.model_copy(update={"align": "start"}), 0.0
        line = line.model_copy(update={"at": place})
        return _set_line(line, len(self._found), Standing(stretch), self._face, self._nudges, at)

    def _opened(self, line: Lettering, text: str, at: int, stretch: Line) -> float:
        """The tracking with which a line is as long as its stretch: length goes evenly with it."""
        own = words_of(line, self._face, self._nudges, text, at).length
        wider = line.model_copy(update={"tracking": line.tracking + 1.0})
        gained = words_of(wider, self._face, self._nudges, text, at).length - own
        if gained <= JOINT:
            return line.tracking
        return line.tracking + min((stretch.length - own) / gained, _MOST_OPENED * line.height)


# -------------------------------------------------------------------------- laps


def _laps(
    line: Lettering,
    laps: Laps,
    standing: Standing,
    face: Face,
    nudges: dict[int, Nudge],
    offset: int,
    number: int,
) -> list[Setting]:
    """One line of words over as many laps as it needs, broken at its spaces."""
    guide = standing.guide
    away = outside(guide) * (1.0 if line.reading == "along" else -1.0)
    step = away * laps.pitch * (1.0 if laps.way == "outward" else -1.0)
    settings: list[Setting] = []
    rest, at = line.text, offset
    while rest:
        lap = line.model_copy(update={"standoff": line.standoff + len(settings) * step})
        try:
            room = baseline_curve(lap, guide, face).length
        except CurveError:
            if not settings:
                raise
            # There is no further lap: what is left stands on the last one, and overflows.
            last = settings.pop()
            lap = last.lettering
            taken = at - len(lap.text)
            rest, at = line.text[taken - offset :], taken
            room = math.inf
        full = len(settings) >= MOST_LAPS
        count = len(rest) if full else _fitting(lap, face, nudges, rest, at, room)
        text = rest[:count]
        settings.append(
            _set_line(
                lap.model_copy(update={"text": text}),
                number + len(settings),
                standing,
                face,
                nudges,
                at,
                settings,
            )
        )
        rest, at = rest[count:], at + count
    return settings or [_set_line(line, number, standing, face, nudges, offset)]


def _fitting(
    lap: Lettering, face: Face, nudges: dict[int, Nudge], text: str, offset: int, room: float
) -> int:
    """How many characters of `text` one lap takes: whole words, the space after them too."""
    words = words_of(lap, face, nudges, text, offset)
    if words.length <= room:
        return len(text)
    # Through the words as they are written, whatever the direction in which they stand.
    steps = sorted(
        zip(words.places.tolist(), np.diff(np.append(words.starts, words.length)).tolist(),
            words.clusters, strict=True)
    )  # fmt: skip
    taken, reached, word_end = 0, 0.0, 0
    for place, step, cluster in steps:
        end = place - offset + len(cluster.text)
        if cluster.text.isspace():
            word_end = end
        elif reached + step > room:
            break
        reached += step
        taken = end
    if word_end:
        return word_end
    return max(taken, len(steps[0][2].text))
