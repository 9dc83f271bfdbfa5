"""What a machine could not do of a run."""

from __future__ import annotations

from ulvent.core.recipe.lying import Bed
from ulvent.core.recipe.machine import Machine
from ulvent.core.runs.run import PassRun, Run

_SLACK = 1e-6


def beyond_bed(one: PassRun, bed: Bed) -> float:
    """How far a pass leaves a bed, mm, with what the tool runs on before and after its lines."""
    if one.bounds is None:
        return 0.0
    x0, y0, x1, y1 = bed.box
    left, low, right, high = one.bounds
    out = max(max(track.row.before, track.row.after) if track.row else 0.0 for track in one.tracks)
    return max(0.0, out + max(x0 - left, y0 - low, right - x1, high - y1))


def out_of_reach(run: Run, machine: Machine) -> tuple[str, ...]:
    """What a machine could not do of a run, in words, each with its figures."""
    found: list[str] = []
    for one in run.passes:
        name = f"pass {one.number}, “{one.title}”,"
        beyond = beyond_bed(one, machine.bed)
        if beyond > _SLACK:
            bed = f"{machine.bed.width:g} × {machine.bed.height:g} mm"
            found.append(f"{name} leaves the bed of {bed} by {beyond:.3g} mm")
        if machine.fastest and one.speed > machine.fastest:
            found.append(f"{name} asks for {one.speed:g} mm/s; at most {machine.fastest:g} are had")
        if machine.deepest and one.depth > machine.deepest:
            found.append(f"{name} goes {one.depth:g} mm deep; at most {machine.deepest:g} are had")
    return tuple(found)
