"""Meshes as GLB, the binary form of glTF 2.0: metres, y up, as that standard asks.

Triangles are flat: each has corners of its own, so that what shows them needs no normals.
"""

from __future__ import annotations

import json
import struct
from collections.abc import Sequence
from typing import Any

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.solids import Mesh

_MM = 0.001
_JSON, _BIN = 0x4E4F534A, 0x004E4942
_FLOAT, _UNSIGNED = 5126, 5125
_ARRAY, _ELEMENTS = 34962, 34963


def glb(meshes: Sequence[Mesh]) -> bytes:
    """A GLB file, a mesh and a material for each part."""
    packed = _Packed()
    materials = [
        {
            "pbrMetallicRoughness": {
                "baseColorFactor": [*_linear(mesh.colour), 1.0],
                "metallicFactor": 0.1,
                "roughnessFactor": 0.7,
            }
        }
        for mesh in meshes
    ]
    written = [packed.mesh(mesh, number) for number, mesh in enumerate(meshes)]
    names = [mesh.name for mesh in meshes]
    document = {
        "asset": {"version": "2.0", "generator": "Ulvent"},
        "scene": 0,
        "scenes": [{"nodes": list(range(len(written)))}],
        "nodes": [{"mesh": index, "name": name} for index, name in enumerate(names)],
        "meshes": written,
        "materials": materials,
        "accessors": packed.accessors,
        "bufferViews": packed.views,
        "buffers": [{"byteLength": len(packed.data)}],
    }
    text = json.dumps(document, separators=(",", ":")).encode()
    chunks = _chunk(_JSON, text, b" ") + _chunk(_BIN, bytes(packed.data), b"\0")
    return struct.pack("<4sII", b"glTF", 2, 12 + len(chunks)) + chunks


def _chunk(kind: int, data: bytes, filler: bytes) -> bytes:
    data += filler * (-len(data) % 4)
    return struct.pack("<II", len(data), kind) + data


def _linear(colour: str) -> list[float]:
    """A colour as light: sRGB's curve taken off (IEC 61966-2-1)."""
    parts = [int(colour[at : at + 2], 16) / 255.0 for at in (1, 3, 5)]
    return [
        round(part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4, 5)
        for part in parts
    ]


class _Packed:
    """A buffer being filled."""

    def __init__(self) -> None:
        self.data = bytearray()
        self.views: list[dict[str, int]] = []
        self.accessors: list[dict[str, Any]] = []

    def mesh(self, mesh: Mesh, material: int) -> dict[str, Any]:
        # z is up in a piece, y in glTF.
        turned = mesh.vertices[:, [0, 2, 1]] * (_MM, _MM, -_MM)
        places = self._add(turned.astype("<f4"), _ARRAY)
        extent = {"min": turned.min(axis=0).tolist(), "max": turned.max(axis=0).tolist()}
        rounded = {name: np.float32(value).tolist() for name, value in extent.items()}
        self.accessors[places] |= {"type": "VEC3", "componentType": _FLOAT, **rounded}
        corners = self._add(mesh.triangles.astype("<u4").ravel(), _ELEMENTS)
        self.accessors[corners] |= {"type": "SCALAR", "componentType": _UNSIGNED}
        primitive = {"attributes": {"POSITION": places}, "indices": corners, "material": material}
        return {"name": mesh.name, "primitives": [primitive]}

    def _add(self, values: Floats | Any, target: int) -> int:
        data = values.tobytes()
        self.views.append(
            {
                "buffer": 0,
                "byteOffset": len(self.data),
                "byteLength": len(data),
                "target": target,
            }
        )
        self.data += data + b"\0" * (-len(data) % 4)
        self.accessors.append({"bufferView": len(self.views) - 1, "count": len(values)})
        return len(self.accessors) - 1
