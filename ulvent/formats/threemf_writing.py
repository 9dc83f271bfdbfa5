"""Meshes as 3MF: a ZIP with one model, an object a mesh, each with its name and colour.

3MF Core Specification 1.3: parts of the package are named by relationships; `basematerials`
carry colours.
"""

from __future__ import annotations

from xml.sax.saxutils import escape, quoteattr

from ulvent.core.solids import MadeSolid, Mesh
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


def threemf(solid: MadeSolid) -> bytes:
    """A 3MF package, mm."""
    parts = {
        "[Content_Types].xml": _TYPES,
        "_rels/.rels": _RELATIONS,
        "3D/3dmodel.model": _model(solid),
    }
    return packed((name, text.encode()) for name, text in parts.items())


def _model(solid: MadeSolid) -> str:
    colours = list(dict.fromkeys(mesh.colour for mesh in solid.meshes))
    bases = "".join(
        f'<base name="colour {number}" displaycolor="{colour.upper()}FF"/>'
        for number, colour in enumerate(colours, 1)
    )
    first = 2
    objects = "".join(
        _object(number, mesh, colours.index(mesh.colour))
        for number, mesh in enumerate(solid.meshes, first)
    )
    items = "".join(
        f'<item objectid="{number}"/>' for number in range(first, first + len(solid.meshes))
    )
    title = f'<metadata name="Title">{escape(solid.meshes[0].name)}</metadata>'
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<model unit="millimeter" xml:lang="en" xmlns="{_CORE}">{title}'
        '<metadata name="Application">Ulvent</metadata>'
        f'<resources><basematerials id="1">{bases}</basematerials>{objects}</resources>'
        f"<build>{items}</build></model>"
    )


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
