"""Random values for a JSON schema, and random pieces for everything that takes one."""

from __future__ import annotations

import traceback
from pathlib import Path
from random import Random
from typing import Any

WORDS = ("QUILLMERE ORCHARD", "Tawny Plum", "pear", "QUINCE\nMEDLAR", "", "A", "0123", "fi & ")
FACES = ("lato-bold", "cinzel-semibold", "kaushan-script", "hershey-sans")
FIGURES = (0.0, 1.0, -1.0, 0.5, 3.0, 12.0, 40.0, 90.0, -77.5, 200.0)
PATHS = ("M0 0C20 40 60 -20 80 10L150 0", "M0 0L60 0L60 40L0 40Z", "M-80 0C-40 50 40 -50 80 0")


def told(error: Exception) -> str:
    """An error by its kind, the last line of ours that it came through, and its words."""
    frames = [f for f in traceback.extract_tb(error.__traceback__) if "/ulvent/" in f.filename]
    where = f"{Path(frames[-1].filename).name}:{frames[-1].lineno}" if frames else ""
    return f"{type(error).__name__} {where} {str(error)[:90]}"


def most_megabytes() -> int:
    """The most memory that this process has had.

    Not getrusage: what that says begins with what the process that started this one had.
    """
    status = Path("/proc/self/status").read_text(encoding="ascii")
    return round(int(status.partition("VmHWM:")[2].split()[0]) / 1024)


class Fuzz:
    """Makes values; `ids` are those of guides and letterings that are there."""

    def __init__(self, seed: int, schema: dict[str, Any]) -> None:
        self.random = Random(seed)
        self.schema, self.definitions = schema, schema["$defs"]
        self.guides: list[str] = ["g0"]
        self.letterings: list[str] = ["t0"]

    def value(self, schema: dict[str, Any], name: str = "", deep: int = 0) -> Any:
        r = self.random
        if "$ref" in schema:
            return self.value(self.definitions[schema["$ref"].split("/")[-1]], name, deep + 1)
        if "const" in schema or "enum" in schema:
            return r.choice(schema.get("enum") or [schema.get("const")])
        for many in ("anyOf", "oneOf"):
            if many in schema:
                plain = [one for one in schema[many] if one.get("type") == "null"]
                return self.value(r.choice(plain if plain and deep > 4 else schema[many]), name,
                                  deep + 1)  # fmt: skip
        kind = schema.get("type")
        if kind == "object":
            return self._object(schema, deep)
        if kind == "array":
            return self._array(schema, name, deep)
        return self._plain(kind, schema, name)

    def _object(self, schema: dict[str, Any], deep: int) -> dict[str, Any]:
        needed = schema.get("required", [])
        return {
            key: self.value(field, key, deep + 1)
            for key, field in schema.get("properties", {}).items()
            if key in needed or self.random.random() < 0.12
        }

    def _array(self, schema: dict[str, Any], name: str, deep: int) -> list[Any]:
        if "prefixItems" in schema:
            return [self.value(one, name, deep + 1) for one in schema["prefixItems"]]
        least = schema.get("minItems", 0)
        count = self.random.randint(least, max(least, min(schema.get("maxItems", 4), 4)))
        return [self.value(schema.get("items", {}), name, deep + 1) for _ in range(count)]

    def _plain(self, kind: str | None, schema: dict[str, Any], name: str) -> Any:
        r = self.random
        if kind == "boolean":
            return r.random() < 0.5
        if kind in ("number", "integer"):
            least = max(schema.get("minimum", schema.get("exclusiveMinimum", -1e9)), -1e9)
            most = min(schema.get("maximum", schema.get("exclusiveMaximum", 1e9)), 1e9)
            value = min(max(r.choice(FIGURES) * r.uniform(0.8, 1.2), least), most)
            if kind == "integer":
                return int(value)
            return value or 0.5 * bool("exclusiveMinimum" in schema)
        if kind == "string":
            return self._string(name)
        return None

    def _string(self, name: str) -> str:
        r = self.random
        if name in ("guide", "first", "second", "along", "to", "of", "other", "inner", "outer"):
            return r.choice([*self.guides, *self.letterings])
        if name == "lettering":
            return r.choice(self.letterings)
        if name in ("d", "lines"):
            return r.choice(PATHS)
        if name == "face":
            return r.choice(FACES)
        if name == "grip":
            return r.choice(["centre", "whole", "start", "size", "node:1", "before:1", "part:0"])
        return r.choice(WORDS)

    def piece(self) -> dict[str, Any]:
        """A piece of a few guides and letterings; most are sound."""
        r, properties = self.random, self.schema["properties"]
        self.guides = [f"g{index}" for index in range(r.randint(1, 3))]
        self.letterings = [f"t{index}" for index in range(r.randint(1, 2))]
        kinds = properties["guides"]["items"]
        guides = [self.value(kinds) | {"id": one} for one in self.guides]
        return {
            "ulvent": 1,
            "blank": {"kind": "disc", "diameter": 300.0} if r.random() < 0.7 else None,
            "guides": guides,
            "letterings": [
                self.value(self.definitions["Lettering"])
                | {"id": one, "guide": r.choice(self.guides), "height": r.choice([3.0, 9.0, 14.0])}
                for one in self.letterings
            ],
        }
