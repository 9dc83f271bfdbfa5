"""A run as DXF: a layer a pass, a polyline a track, in their order."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.core.runs.few_moves import once_each, thinned
from ulvent.formats.dxf_writing import add_layer, dxf_bytes, layer_name, new_dxf

_OFF = 0.001


def write_dxf_by_pass(run: Run) -> bytes:
    """Tracks as the tool goes along them, mm from the machine's zero."""
    document = new_dxf()
    space = document.modelspace()
    few = once_each(lambda points: thinned(points, _OFF).tolist())
    for one in run.passes:
        layer = layer_name(f"{one.number} - {one.title}")
        add_layer(document, layer, one.colour)
        for track in one.tracks:
            space.add_lwpolyline(few(track.points), dxfattribs={"layer": layer})
    return dxf_bytes(document)
