"""Meshes as 3MF: a ZIP with one model, an object a mesh, each with its name and colour.

3MF Core Specification 1.3: parts of the package are named by relationships; `basematerials`
carry colours.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple
from xml.sax.saxutils import escape, quoteattr

from ulvent.core.base.arrays import Matrices
from ulvent.core.solids import Mesh
from ulvent.formats.packed import packed

_CORE = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
_TYPES = (
    '<?xml version="1.0" encoding="UTF-8"?>\n'
    '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
    '<Default Extension="rels" '
    'ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
    '<Default Extension="model" '
    'ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>'
)
_RELATIONS = (
    '<?xml version="1.0" encoding="UTF-8"?>\n'
    '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
    '<Relationship Target="/3D/3dmodel.model" Id="rel0" '
    'Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>'
)


class PlatePart(NamedTuple):
    """A part on a plate: its meshes, and the map (2, 3) from its own plane to the plate's."""

    meshes: Sequence[Mesh]
    matrix: Matrices | None = None


def threemf(title: str, parts: Sequence[PlatePart]) -> bytes:
    """A 3MF package, mm, of parts that lie on one plate."""
    files = {
        "[Content_Types].xml": _TYPES,
        "_rels/.rels": _RELATIONS,
        "3D/3dmodel.model": _model(title, parts),
    }
    return packed((name, text.encode()) for name, text in files.items())


def _model(title: str, parts: Sequence[PlatePart]) -> str:
    lying = [(mesh, part.matrix) for part in parts for mesh in part.meshes]
    colours = list(dict.fromkeys(mesh.colour for mesh, _ in lying))
    bases = "".join(
        f'<base name="colour {number}" displaycolor="{colour.upper()}FF"/>'
        for number, colour in enumerate(colours, 1)
    )
    objects, items = [], []
    for number, (mesh, matrix) in enumerate(lying, 2):
        objects.append(_object(number, mesh, colours.index(mesh.colour)))
        items.append(f'<item objectid="{number}"{_placed(matrix)}/>')
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<model unit="millimeter" xml:lang="en" xmlns="{_CORE}">'
        f'<metadata name="Title">{escape(title)}</metadata>'
        '<metadata name="Application">Ulvent</metadata>'
        f'<resources><basematerials id="1">{bases}</basematerials>{"".join(objects)}</resources>'
        f"<build>{''.join(items)}</build></model>"
    )


def _placed(matrix: Matrices | None) -> str:
    """The map of an item as 3MF says it: rows of a matrix (4, 3) that a row of a point meets."""
    if matrix is None:
        return ""
    (a, b, x), (c, d, y) = matrix.tolist()
    figures = (a, c, 0.0, b, d, 0.0, 0.0, 0.0, 1.0, x, y, 0.0)
    return f' transform="{" ".join(f"{figure:.6f}" for figure in figures)}"'


def _object(number: int, mesh: Mesh, colour: int) -> str:
    vertices = "".join(
        f'<vertex x="{x:.6f}" y="{y:.6f}" z="{z:.6f}"/>' for x, y, z in mesh.vertices.tolist()
    )
    triangles = "".join(
        f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in mesh.triangles.tolist()
    )
    return (
        f'<object id="{number}" type="model" name={quoteattr(mesh.name)} pid="1" '
        f'pindex="{colour}"><mesh><vertices>{vertices}</vertices>'
        f"<triangles>{triangles}</triangles></mesh></object>"
    )
