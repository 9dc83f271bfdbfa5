"""Findings on a laid-out piece, before anything is prepared.

Lettering that overflows its guide, characters and features that its face lacks,
faces that are not here, and guides that bend more tightly than their letters can follow.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable

from ulvent.core.base.tolerances import JOINT
from ulvent.core.faces import Face
from ulvent.core.fits import nearer_on_turns
from ulvent.core.layout import Layout
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedies import Remedy, overflow_remedies
from ulvent.core.recipe.lettering import Lettering
from ulvent.core.setting import Setting, tight_stretches
from ulvent.core.setting.gaps.profiles import softening
from ulvent.core.setting.gaps.spacing import FLOOR
from ulvent.core.stances import STANCES

MOST_FACES = 4
"""So many faces are offered for a character that is missing."""


OtherFaces = Callable[[], Iterable[tuple[str, Face]]]
"""Gives all faces that could stand in for one another, with their ids."""


def prove(layout: Layout, others: OtherFaces = tuple, remedies: bool = True) -> list[Finding]:
    """All findings, letterings in order.

    Faces of `others` are offered for missing letters. Without `remedies` those that must be
    tried are left out, since trying takes longer than a frame.
    """
    findings: list[Finding] = []
    for lettering in layout.piece.letterings:
        lines = layout.lines_of(lettering.id)
        findings.extend(_stand_in(lettering, lines[0].face))
        findings.extend(_overflow(layout, lettering, lines, remedies))
        findings.extend(_missing(lettering, lines, others))
        findings.extend(_lacking(lettering, lines[0].face))
        findings.extend(_tight(lines))
        findings.extend(_near(lines))
        findings.extend(_near_turns(lines))
        findings.extend(_unfitted(lines[0]))
    return findings


def _stand_in(lettering: Lettering, face: Face) -> list[Finding]:
    if not face.stands_for:
        return []
    return [
        Finding(
            kind="missing-face",
            severity="fault",
            lettering=lettering.id,
            message=f"the face “{lettering.face}” is not here; {face.name} stands in for it",
            remedy="Add the face's file, or choose another face.",
            figure=1.0,
        )
    ]


def _lacking(lettering: Lettering, face: Face) -> list[Finding]:
    """Features and axes that were asked for and that the face has not."""
    offered = {feature.tag for feature in face.features} | {axis.tag for axis in face.axes}
    asked = [*(tag for tag, value in lettering.features.items() if value), *lettering.axes]
    lacking = [tag for tag in asked if tag not in offered]
    if not lacking:
        return []
    return [
        Finding(
            kind="missing-feature",
            severity="hint",
            lettering=lettering.id,
            message=f"{face.name} has no {', '.join(lacking)}; set without",
            remedy="Choose a face that has it, or leave it out.",
            figure=float(len(lacking)),
        )
    ]


def _overflow(
    layout: Layout, lettering: Lettering, lines: tuple[Setting, ...], remedies: bool
) -> list[Finding]:
    setting = max(lines, key=lambda line: line.overhang)
    if setting.room >= 0.0:
        return []
    if lettering.dial is not None:
        return [_crowded(layout, lettering, setting.overhang, remedies)]
    letters = setting.letters_without_room()
    named = ", ".join(f"“{stretch}”" for stretch in setting.words_without_room())
    guide = "one lap of its guide" if setting.baseline.closed else "its guide"
    over = setting.overhang
    message = f"{over:.2f} mm of this lettering do not fit on {guide}"
    message += f"; no room for: {named}" if letters else ""
    if setting.lettering.repeat:
        message = f"the repeated words are {over:.2f} mm longer than their guide"
    too_long = setting.length > setting.baseline.length
    remedy = (
        "Make it smaller or tighter, shorten the words, or use a larger guide."
        if too_long
        else "Slide it along the guide: it is short enough to fit."
    )
    return [
        Finding(
            kind="overflow",
            severity="fault",
            lettering=setting.lettering.id,
            message=message,
            remedy=remedy,
            figure=over,
            unit="mm",
            letters=tuple(letters),
            remedies=tuple(overflow_remedies(layout, lettering)) if remedies else (),
        )
    ]


def _crowded(layout: Layout, lettering: Lettering, over: float, remedies: bool) -> Finding:
    return Finding(
        kind="overflow",
        severity="fault",
        lettering=lettering.id,
        message=f"labels of this dial run into each other by {over:.2f} mm",
        remedy="Make them smaller, or use a larger guide.",
        figure=over,
        unit="mm",
        remedies=tuple(overflow_remedies(layout, lettering)) if remedies else (),
    )


def _missing(lettering: Lettering, lines: tuple[Setting, ...], others: OtherFaces) -> list[Finding]:
    missing = [character for line in lines for character in line.missing]
    if not missing:
        return []
    face = lines[0].face
    named = ", ".join(str(character) for character in missing)
    wanted = "".join(sorted({character.character for character in missing}))
    having = [
        (face_id, other)
        for face_id, other in others()
        if not other.shape(wanted).missing and not other.shape(lettering.text).missing
    ]
    remedies = tuple(
        Remedy(label=f"set in {other.name}", of="lettering", owner=lettering.id,
               changes={"face": face_id})
        for face_id, other in having[:MOST_FACES]
    )  # fmt: skip
    return [
        Finding(
            kind="missing-letters",
            severity="fault",
            lettering=lettering.id,
            message=f"{face.name} has no letter for {named}; left blank",
            remedy="Choose a face that has it, or another character.",
            figure=float(len(missing)),
            letters=tuple(character.character for character in missing),
            remedies=remedies,
        )
    ]


def _tight(lines: tuple[Setting, ...]) -> list[Finding]:
    stretches = [(stretch, line) for line in lines for stretch in tight_stretches(line)]
    if not stretches:
        return []
    worst, setting = min(stretches, key=lambda pair: pair[0].radius)
    return [
        Finding(
            kind="tight-bend",
            severity="warning",
            lettering=setting.lettering.id,
            message=(
                f"the guide bends to a radius of {worst.radius:.3g} mm at station "
                f"{worst.begin:.4g}, tighter than letters {setting.capital:.4g} mm high "
                "can follow"
            ),
            remedy="Use smaller letters, stand them farther off, or ease the bend.",
            figure=worst.radius,
            limit=setting.capital,
            unit="mm",
        )
    ]


def _near(lines: tuple[Setting, ...]) -> list[Finding]:
    """Pairs that even gaps bring nearer than they may come, since less would tear them apart."""
    pairs = [
        (line.clusters[index].text + line.clusters[index + 1].text, line)
        for line in lines
        for index in line.too_near.nonzero()[0]
    ]
    if not pairs:
        return []
    setting = pairs[0][1]
    named = ", ".join(f"“{text}”" for text, _ in pairs)
    return [
        Finding(
            kind="near-letters",
            severity="warning",
            lettering=setting.lettering.id,
            message=f"letters come nearer to each other than they should on this curve: {named}",
            remedy="Open the gap after the first one by hand.",
            figure=float(len(pairs)),
            letters=tuple(text for text, _ in pairs),
        )
    ]


def _near_turns(lines: tuple[Setting, ...]) -> list[Finding]:
    """Letters that come nearer to those on other turns, laps or lines than neighbours may."""
    setting = lines[0]
    overflows = any(line.room < 0.0 for line in lines)
    if overflows or setting.lettering.dial or not STANCES[setting.lettering.shape].side_by_side:
        return []
    limit = FLOOR * min(softening(line.face, "capital").white * line.scale for line in lines)
    apart = nearer_on_turns(lines, limit)
    if apart is None:
        return []
    where = "of other turns" if len(lines) == 1 else "of other lines"
    return [
        Finding(
            kind="near-turns",
            severity="warning",
            lettering=setting.lettering.id,
            message=(
                f"letters come within {apart:.3g} mm of those {where}"
                if apart > JOINT
                else f"letters run into those {where}"
            ),
            remedy="Make the letters lower, or the turns and lines wider apart.",
            figure=apart,
            limit=limit,
            unit="mm",
        )
    ]


def _unfitted(setting: Setting) -> list[Finding]:
    """A fit that has no exact answer, and the nearest one."""
    fitted = setting.fitted
    if fitted is None or not fitted.note:
        return []
    return [
        Finding(
            kind="fit",
            severity="fault",
            lettering=setting.lettering.id,
            message=fitted.note,
            remedy="Change the words, the guide, or the limits of the fit.",
            figure=fitted.value,
            unit="letters" if fitted.kind == "repeats" else "mm",
        )
    ]
