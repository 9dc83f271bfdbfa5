"""Files to read: the SVG specification's own examples, and DXF files that ezdxf writes."""

from __future__ import annotations

import io

import ezdxf

_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{h}" viewBox="0 0 {vw} {vh}">'


def svg(body: str, w: str = "100mm", h: str = "100mm", vw: float = 100, vh: float = 100) -> bytes:
    return (_HEAD.format(w=w, h=h, vw=vw, vh=vh) + body + "</svg>").encode()


# SVG 2, chapter Paths: examples triangle01, cubic01, quad01 and arcs01 (from memory).
TRIANGLE01 = svg('<path d="M 100 100 L 300 100 L 200 300 z"/>', "4cm", "4cm", 400, 400)
CUBIC01 = svg(
    '<path d="M100,200 C100,100 250,100 250,200 S400,300 400,200"/>', "5cm", "4cm", 500, 400
)
QUAD01 = svg('<path d="M200,300 Q400,50 600,300 T1000,300"/>', "12cm", "6cm", 1200, 600)
ARCS01 = svg(
    '<path d="M300,200 h-150 a150,150 0 1,0 150,-150 z"/>'
    '<path d="M275,175 v-150 a150,150 0 0,0 -150,150 z"/>'
    '<path d="M600,350 l 50,-25 a25,25 -30 0,1 50,-25 l 50,-25 a25,50 -30 0,1 50,-25 '
    'l 50,-25 a25,75 -30 0,1 50,-25 l 50,-25 a25,100 -30 0,1 50,-25 l 50,-25"/>',
    "12cm",
    "5.25cm",
    1200,
    400,
)
EVERYTHING = svg(
    '<defs><g id="a"><circle r="10"/></g></defs>'
    '<g transform="translate(20 20) rotate(30)"><rect width="40" height="20" rx="5"/>'
    '<use href="#a" x="50"/></g><path d="M0 0C10 20 30 20 40 0S60 -20 70 0A30 10 20 0 1 100 20'
    'q5 5 10 0z"/><ellipse rx="20" ry="10"/><polyline points="0,0 10,10 20,0"/>'
    '<g display="none"><line x2="500"/></g><text x="5">words</text>'
)
ROUNDED = svg('<rect x="10" y="10" width="60" height="40" rx="8"/>')


def dxf(units: int = 4) -> tuple[bytes, ezdxf.document.Drawing]:
    """Lines, arcs, a bulge, a spline, an ellipse, and blocks turned and stretched."""
    document = ezdxf.new("R2010")
    document.header["$INSUNITS"] = units
    space = document.modelspace()
    # A rounded rectangle as loose lines and arcs, in no order.
    for start, end in (((10, 0), (90, 0)), ((100, 40), (100, 10)), ((90, 50), (10, 50)),
                       ((0, 10), (0, 40))):  # fmt: skip
        space.add_line(start, end)
    for centre, begin in (((90, 10), 270), ((90, 40), 0), ((10, 40), 90), ((10, 10), 180)):
        space.add_arc(centre, 10, begin, begin + 90)
    space.add_lwpolyline([(200, 0, 0, 0, 1), (210, 0, 0, 0, 0), (210, 10)], close=True,
                         format="xyseb")  # fmt: skip
    space.add_spline([(200, 50), (210, 70), (230, 55), (240, 50)])
    space.add_ellipse((300, 0), (20, 0), 0.5)
    block = document.blocks.new("knob")
    block.add_circle((0, 0), 5)
    space.add_blockref("knob", (300, 50), dxfattribs={"xscale": 2, "yscale": 1})
    space.add_blockref("knob", (350, 50), dxfattribs={"rotation": 30})
    return written(document), document


def written(document: ezdxf.document.Drawing) -> bytes:
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()
