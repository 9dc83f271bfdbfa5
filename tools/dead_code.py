"""Names in `ulvent` that nothing uses: neither its own code, nor the page that it serves.

    .venv/bin/python tools/dead_code.py

What only tests use counts as dead. Found by vulture, which knows names and no more: one that
is used anywhere counts as used everywhere.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path

from vulture import Vulture

ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "frontend" / "src"

FOUND_BY_REGISTERS = {"KIND", "STANCE", "ALL", "STEP", "CHECK", "FORMAT", "READER"}
CALLED_BY_LIBRARIES = {
    "model_config",  # pydantic
    "endPath",  # fontTools' pens
    "do_GET", "do_POST", "log_message",  # http.server
    "write_fixed_meta_data_for_testing",  # ezdxf
    "made_at", "added_at", "used_at",  # columns that the database fills
    "should_exit",  # of uvicorn's server
    "down_revision", "branch_labels", "depends_on", "downgrade",  # alembic
}  # fmt: skip
FOR_OTHERS = {
    "database",  # of /healthz, for who watches over the application
    "ulvent",  # the version in a piece file
}
DECORATED = ["@router.*", "@app.*", "@*validator*", "@*serializer*"]


def main() -> int:
    vulture = Vulture(
        ignore_names=[*FOUND_BY_REGISTERS, *CALLED_BY_LIBRARIES, *FOR_OTHERS],
        ignore_decorators=DECORATED,
    )
    # What benchmarks measure, and tools draw, is not dead.
    vulture.scavenge([ROOT / "ulvent", ROOT / "benchmarks", ROOT / "tools"])
    on_the_page = _words_of_the_page()
    dead = [
        item
        for item in vulture.get_unused_code(min_confidence=60)
        if item.filename.is_relative_to(ROOT / "ulvent")
        and item.name not in on_the_page
        and not (item.typ == "class" and item.filename.name.endswith("_act.py"))
    ]
    for item in dead:
        print(
            f"{item.filename.relative_to(ROOT)}:{item.first_lineno}: unused {item.typ} {item.name}"
        )
    return 1 if dead else 0


def _words_of_the_page() -> set[str]:
    """Every name in what the page is written of; the types made from the server's left out."""
    sources = [
        path
        for ending in ("*.ts", "*.svelte")
        for path in PAGE.rglob(ending)
        if path.name != "schema.d.ts"
    ]
    return {word for path in sources for word in re.findall(r"\w+", path.read_text())}


if __name__ == "__main__":
    sys.exit(main())
