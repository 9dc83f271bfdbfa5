"""Build the wheel: the package with its faces and the built page, and nothing left over.

    .venv/bin/python tools/wheel.py FOLDER

Building in the checkout would take along whatever an earlier build has left in it.
"""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def build(out: Path) -> Path:
    """Build the wheel into a folder. The page has to be built already."""
    if not (ROOT / "ulvent" / "web" / "page" / "index.html").is_file():
        raise SystemExit("the page is not built: ./start or ./check builds it")
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder)
        shutil.copytree(
            ROOT / "ulvent", source / "ulvent", ignore=shutil.ignore_patterns("__pycache__")
        )
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            shutil.copy(ROOT / name, source / name)
        command = ["pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation", "-w", str(out)]
        subprocess.run([sys.executable, "-m", *command, "."], cwd=source, check=True)
    (wheel,) = out.glob("ulvent-*.whl")
    return wheel


if __name__ == "__main__":
    print(build(Path(sys.argv[1]).resolve()))
