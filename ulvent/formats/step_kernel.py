"""The CAD kernel, in a process of its own: plain figures come in, a STEP file goes out.

`python -m ulvent.formats.step_kernel OUT` reads what `step_writing` asks for as JSON.
"""

from __future__ import annotations

import json
import math
import re
import sys
from pathlib import Path
from typing import Any

from OCP import collections as kernel_lists
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakeWire,
)
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer, BRepFilletAPI_MakeFillet
from OCP.BRepGProp import BRepGProp
from OCP.BRepLib import BRepLib
from OCP.BRepOffset import BRepOffset_MakeSimpleOffset
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakePrism,
)
from OCP.Geom import Geom_ConicalSurface, Geom_CylindricalSurface, Geom_Plane
from OCP.Geom2d import Geom2d_BezierCurve, Geom2d_Circle
from OCP.gp import gp_Ax2, gp_Ax2d, gp_Ax3, gp_Circ2d, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.Interface import Interface_Static
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Shape

_LENGTHENED = 1.0
"""mm by which what goes through is longer than the body."""
_LEVEL = 1e-6


def made(asked: dict[str, Any]) -> TopoDS_Shape:
    """The part that is asked for.

    Raises
    ------
    ValueError
        Saying what could not be made.
    """
    body = asked["body"]
    shape = _plate(body) if body["kind"] == "plate" else _side(body)
    raised = [it for one in asked["letters"] if one["by"] > 0.0 for it in _letter(body, one)]
    sunk = [it for one in asked["letters"] if one["by"] < 0.0 for it in _letter(body, one)]
    if sunk:
        shape = _done(BRepAlgoAPI_Cut(), shape, sunk)
    if raised:
        shape = _done(BRepAlgoAPI_Fuse(), shape, raised)
    same = ShapeUpgrade_UnifySameDomain(shape, True, True, True)
    same.Build()
    shape = same.Shape()
    if not BRepCheck_Analyzer(shape).IsValid():
        raise ValueError("what came out is not sound")
    return shape


def _done(operation: Any, shape: TopoDS_Shape, tools: list[TopoDS_Shape]) -> TopoDS_Shape:
    operation.SetArguments(_list([shape]))
    operation.SetTools(_list(tools))
    operation.Build()
    if not operation.IsDone():
        raise ValueError("letters and body could not be made one")
    return operation.Shape()


def _list(shapes: list[TopoDS_Shape]) -> Any:
    found = kernel_lists.List_TopoDS_Shape()
    for shape in shapes:
        found.Append(shape)
    return found


def _plate(body: dict[str, Any]) -> TopoDS_Shape:
    thickness = body["thickness"]
    solids = [_thick(_level(0.0), face, thickness) for face in body["faces"]]
    shape = solids[0] if len(solids) == 1 else _done(BRepAlgoAPI_Fuse(), solids[0], solids[1:])
    shape = _edges_off(shape, body, [thickness])
    if "rim" in body:
        top = _level(thickness)
        floors = [_thick(top, face, -body["rim"]["depth"]) for face in body["rim"]["faces"]]
        shape = _done(BRepAlgoAPI_Cut(), shape, floors)
    return shape


def _side(body: dict[str, Any]) -> TopoDS_Shape:
    low, high, height = body["low"], body["high"], body["height"]
    axis = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))
    if low == high:
        shape = BRepPrimAPI_MakeCylinder(axis, low, height).Shape()
    else:
        shape = BRepPrimAPI_MakeCone(axis, low, high, height).Shape()
    shape = _edges_off(shape, body, [0.0, height])
    if body["bore"]:
        hole = BRepPrimAPI_MakeCylinder(
            gp_Ax2(gp_Pnt(0, 0, -_LENGTHENED), gp_Dir(0, 0, 1)),
            body["bore"], height + 2 * _LENGTHENED,
        ).Shape()  # fmt: skip
        shape = _done(BRepAlgoAPI_Cut(), shape, [hole])
    return shape


def _edges_off(shape: TopoDS_Shape, body: dict[str, Any], levels: list[float]) -> TopoDS_Shape:
    """The edges that lie on levels, rounded or bevelled."""
    size = body["edge_size"]
    if body["edge"] == "square" or not size:
        return shape
    rounded = body["edge"] == "rounded"
    taking = BRepFilletAPI_MakeFillet(shape) if rounded else BRepFilletAPI_MakeChamfer(shape)
    edges = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_EDGE)
    while edges.More():
        edge = TopoDS.Edge(edges.Current())
        middle = GProp_GProps()
        BRepGProp.LinearProperties_s(edge, middle)
        z = middle.CentreOfMass().Z()
        if any(abs(z - level) < _LEVEL for level in levels) and not taking.Contour(edge):
            taking.Add(size, edge)
        edges.Next()
    taking.Build()
    if not taking.IsDone():
        raise ValueError("the edge has no room for being taken off")
    found = taking.Shape()
    if not BRepCheck_Analyzer(found).IsValid():
        raise ValueError("the edge could not be taken off")
    return found


def _letter(body: dict[str, Any], letter: dict[str, Any]) -> list[TopoDS_Shape]:
    return [_thick(_surface(body, face), face, letter["by"]) for face in letter["faces"]]


def _level(z: float) -> Any:
    return Geom_Plane(gp_Ax3(gp_Pnt(0, 0, z), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)))


def _surface(body: dict[str, Any], face: list[Any]) -> Any:
    """The surface that a letter lies in; a round one with its seam behind the letter.

    Curves come as angles from the front: the letter's are turned until its middle is at half a
    turn, in place.
    """
    if body["kind"] == "plate":
        rim = body.get("rim")
        return _level(body["thickness"] - (rim["depth"] if rim else 0.0))
    angles = [point[0] for ring in face for curve in ring for point in curve]
    middle = (min(angles) + max(angles)) / 2.0
    for ring in face:
        for curve in ring:
            for point in curve:
                point[0] += math.pi - middle
    turned = middle - math.pi
    begin = gp_Dir(math.sin(turned), -math.cos(turned), 0)
    low, high, height = body["low"], body["high"], body["height"]
    axes = gp_Ax3(gp_Pnt(0, 0, height / 2.0), gp_Dir(0, 0, 1), begin)
    if low == high:
        return Geom_CylindricalSurface(axes, low)
    return Geom_ConicalSurface(axes, math.atan2(high - low, height), (low + high) / 2.0)


def _thick(surface: Any, rings: list[Any], by: float) -> TopoDS_Shape:
    """What lies between rings of a surface and the surface so far out, as a solid."""
    outer, *holes = (_wire(surface, ring) for ring in rings)
    making = BRepBuilderAPI_MakeFace(surface, outer, True)
    for hole in holes:
        making.Add(hole)
    if not making.IsDone():
        raise ValueError("an outline makes no face")
    if isinstance(surface, Geom_Plane):
        return BRepPrimAPI_MakePrism(making.Face(), gp_Vec(0.0, 0.0, by)).Shape()
    offset = BRepOffset_MakeSimpleOffset(making.Face(), by)
    offset.SetBuildSolidFlag(True)
    offset.Perform()
    if not offset.IsDone():
        raise ValueError("a letter cannot be made solid")
    solid = TopoDS.Solid(offset.GetResultShape())
    BRepLib.OrientClosedSolid_s(solid)
    return solid


def _wire(surface: Any, curves: list[Any]) -> Any:
    making = BRepBuilderAPI_MakeWire()
    for curve in curves:
        edge = _edge(surface, curve)
        BRepLib.BuildCurves3d_s(edge)
        making.Add(edge)
    if not making.IsDone():
        raise ValueError("an outline does not close")
    return making.Wire()


def _edge(surface: Any, curve: Any) -> Any:
    """A Bezier by its control points, or an arc of a flat face, whichever way it runs."""
    if isinstance(curve, dict):
        circle = Geom2d_Circle(
            gp_Circ2d(gp_Ax2d(gp_Pnt2d(*curve["centre"]), gp_Dir2d(1.0, 0.0)), curve["radius"])
        )
        low, high = sorted(map(math.radians, (curve["from"], curve["to"])))
        return BRepBuilderAPI_MakeEdge(circle, surface, low, high).Edge()
    poles = kernel_lists.Array1_gp_Pnt2d(1, len(curve))
    for place, (u, v) in enumerate(curve, 1):
        poles.SetValue(place, gp_Pnt2d(u, v))
    return BRepBuilderAPI_MakeEdge(Geom2d_BezierCurve(poles), surface).Edge()


def written(shape: TopoDS_Shape, title: str, out: Path) -> None:
    """Write a STEP file whose bytes do not depend on the hour."""
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    Interface_Static.SetCVal_s("write.step.product.name", title)
    writer = STEPControl_Writer()
    writer.Transfer(shape, STEPControl_StepModelType.STEPControl_AsIs)
    writer.Write(str(out))
    text = out.read_text(encoding="utf-8")
    text = re.sub(r"'\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d[^']*'", "'2000-01-01T00:00:00'", text, count=1)
    out.write_text(text, encoding="utf-8")


def main() -> None:
    asked = json.loads(sys.stdin.buffer.read())
    try:
        shape = made(asked)
    except ValueError as error:
        print(error, file=sys.stderr)  # noqa: T201
        raise SystemExit(1) from error
    title = "".join(one if one.isascii() else "_" for one in asked["title"])
    written(shape, title, Path(sys.argv[1]))


if __name__ == "__main__":
    main()
