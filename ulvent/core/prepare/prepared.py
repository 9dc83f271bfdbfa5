"""A laid-out piece prepared: what a tool gets, in layers.

A layer is lettering as it shall be cut: cutouts, each an area with its holes, and
single lines. What a person set is never changed; it is all worked out from the layout.
"""

from __future__ import annotations

from ulvent.core.base.at_work import at_work
from ulvent.core.base.errors import PieceError
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.prepare.layers import Layer, Prepared
from ulvent.core.recipe import Prepare
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region
from ulvent.core.steps.cutout import Cutout, SingleLine
from ulvent.core.steps.work import Shapes, Work

_FEWER = "fewer letters, or coarser figures, would do"


def prepared(layout: Layout) -> Prepared:
    """Prepare a piece.

    Raises
    ------
    PieceError
        Naming each step that needs a closed shape and is given an open one.
    """
    curves = {guide.recipe.id: guide.curve for guide in layout.guides}
    shapes = Shapes(curves, layout.blank)
    layers: list[Layer] = []
    for index, lettering in enumerate(layout.piece.letterings):
        steps = lettering.prepare.taken if lettering.prepare else ()
        cutouts, lines = _as_set(layout.lines_of(lettering.id))
        where = f"letterings[{index}].prepare"
        layers.extend(_layers(Work(shapes, where, lettering.id, steps, cutouts, lines)))
    if layout.piece.prepare is not None:
        layers = _as_a_whole(layers, shapes, layout.piece.prepare)
    if shapes.problems:
        raise PieceError(shapes.problems)
    return Prepared(tuple(layers), _kept_guides(layout), shapes.blank)


def _as_a_whole(layers: list[Layer], shapes: Shapes, recipe: Prepare) -> list[Layer]:
    """The layers of all letterings prepared together; their borders stay as they are."""
    own = [layer for layer in layers if layer.kind == "letters"]
    work = Work(
        shapes,
        "prepare",
        "",
        recipe.taken,
        [cutout for layer in own for cutout in layer.cutouts],
        [line for layer in own for line in layer.lines],
        [bridge for layer in own for bridge in layer.bridges],
    )
    return [*_layers(work), *(layer for layer in layers if layer.kind == "border")]


def _layers(work: Work) -> list[Layer]:
    """What all steps make of letters: their layer, and those of their borders."""
    for step, recipe in work.steps:
        doing = f"“{step.title}” on {len(work.cutouts) + len(work.lines)} letters"
        with at_work(f"{work.where}.{step.field}", doing, _FEWER):
            step.take(recipe, work)
    # What was cut back or hollowed out to nothing is no cutout.
    cutouts = tuple(one for one in work.cutouts if not one.area.is_empty)
    first = Layer(
        id=f"lettering-{work.owner}" if work.owner else "whole",
        owner=work.owner,
        kind="letters" if work.owner else "whole",
        cutouts=cutouts,
        lines=tuple(work.lines),
        bridges=tuple(work.bridges),
        few_nodes=work.few_nodes,
        notes=tuple(work.notes),
        inverse=work.inverse,
    )
    found = [first]
    for number, (region, output) in work.borders.items():
        parts = tuple(Cutout(part) for part in region.parts)
        name = f"border-{work.owner or 'whole'}-{number}"
        found.append(
            Layer(name, work.owner, "border", parts, few_nodes=work.few_nodes, output=output)
        )
    return found


def _kept_guides(layout: Layout) -> tuple[LaidGuide, ...]:
    """The guides that are lines of their own, each line once."""
    found: dict[str, LaidGuide] = {}
    for guide in layout.guides:
        if guide.recipe.output is not None and not guide.recipe.removed:
            plain = guide.recipe.model_copy(
                update={"id": "any", "hidden": False, "output": None, "reverse": False}
            )
            found.setdefault(plain.model_dump_json(), guide)
    return tuple(found.values())


def _as_set(lines: tuple[Setting, ...]) -> tuple[list[Cutout], list[SingleLine]]:
    """The letters of a lettering as they stand, and what of it is single lines."""
    cutouts: list[Cutout] = []
    strokes: list[SingleLine] = []
    for setting in lines:
        key = setting.lettering.id
        for index, cluster in enumerate(setting.clusters):
            if not setting.drawn[index]:
                continue
            outline = setting.placed_outline(index)
            if setting.face.single_stroke:
                strokes.append(SingleLine(key, outline))
                continue
            shape = setting.outline(index)
            matrix, scale = setting.matrices[index], float(setting.scales[index])
            area = Region.of(outline) if setting.bent else Region.of(shape, matrix)
            if area.is_empty:
                continue
            local = matrix / scale
            local[:, 2] = matrix[:, 2]
            cutouts.append(
                Cutout(area, key, int(setting.places[index]), cluster.text, setting.capital,
                       outline, None if setting.bent else local, shape, scale)
            )  # fmt: skip
        for ticks, areas in setting.tick_outlines():
            if areas:
                cutouts.append(Cutout(Region.of(ticks), key, outline=ticks, ticks=True))
            else:
                strokes.append(SingleLine(key, ticks, ticks=True))
    return cutouts, strokes
