"""Write the OpenAPI document, from which the front end's types are made.

.venv/bin/python tools/openapi.py var/openapi.json
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

from ulvent.store.database import open_engine
from ulvent.web.app import create_app


def main(out: Path) -> None:
    """No request is answered here, so the engine never connects."""
    app = create_app(open_engine("postgresql://nobody@127.0.0.1/none"), port=0)
    out.parent.mkdir(parents=True, exist_ok=True)
    out.write_text(json.dumps(app.openapi(), indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
