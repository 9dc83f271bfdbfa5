"""From a lettering to the lines it is set in: its own, its laps, its repeats, its labels."""

from __future__ import annotations

from dataclasses import replace

from ulvent.core.base.errors import CurveError, FaceError, wrong_field
from ulvent.core.base.remembered import remembered
from ulvent.core.faces import Face, MarkShape, Style, styled
from ulvent.core.recipe import Lettering, Mark
from ulvent.core.recipe.arrangements import LINE_TO_LINE
from ulvent.core.setting.letters.words import nudges_on
from ulvent.core.setting.lines.filling import set_filled
from ulvent.core.setting.lines.labels import set_dial
from ulvent.core.setting.lines.laps import set_laps
from ulvent.core.setting.lines.one_line import Given, set_line
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing


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
    given = Given(standing, face, nudges)
    if lettering.dial is not None:
        return (set_dial(lettering, lettering.dial, standing, face),)
    if lettering.fill is not None:
        return tuple(
            replace(setting, nudges=nudges)
            for setting in set_filled(lettering, lettering.fill, given)
        )
    settings: list[Setting] = []
    offset = 0
    for number, text in enumerate(lettering.text.split("\n")):
        line = _line(lettering, number, text)
        if lettering.laps is not None:
            settings.extend(set_laps(line, lettering.laps, given, offset, len(settings)))
        else:
            settings.append(set_line(line, len(settings), given, offset, settings))
        offset += len(text) + 1
    return tuple(replace(setting, nudges=nudges) for setting in settings)


def style_of(lettering: Lettering) -> Style:
    """What a lettering asks of its face."""
    separator = lettering.repeat.separator if lettering.repeat else None
    seam = lettering.fit.mark if lettering.fit else None
    marks = [("repeat.separator", separator), ("ends", lettering.ends), ("fit.mark", seam)]
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


@remembered(64)
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
