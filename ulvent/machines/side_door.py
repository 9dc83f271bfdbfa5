"""The side door of a simulated machine: how a person looks at its bed, and what a test makes fail.

HTTP on loopback. `GET /bed` gives its size, what was done on it, and how many instructions were
taken; `POST /fault` switches one on, `POST /sheet` lays a fresh sheet.
"""

from __future__ import annotations

import json
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

from ulvent.machines.bed import FAULTS, Bed

_MOST = 10_000


class SideDoor:
    """Stands open until it is closed."""

    def __init__(self, bed: Bed, port: int) -> None:
        self._server = ThreadingHTTPServer(("127.0.0.1", port), _handler(bed))
        self.port: int = self._server.server_address[1]
        self._thread = threading.Thread(target=self._server.serve_forever, daemon=True)
        self._thread.start()

    def close(self) -> None:
        self._server.shutdown()
        self._server.server_close()


def _handler(bed: Bed) -> type[BaseHTTPRequestHandler]:
    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            if self.path == "/bed":
                self._answer(200, _as_it_is(bed))
            else:
                self._answer(404, {})

        def do_POST(self) -> None:
            try:
                asked = json.loads(self.rfile.read(min(int(self.headers["Content-Length"]), _MOST)))
            except (TypeError, ValueError):
                asked = None
            self._answer(*_changed(bed, self.path, asked))

        def _answer(self, status: int, values: dict[str, Any]) -> None:
            data = json.dumps(values).encode()
            self.send_response(status)
            self.send_header("Content-Type", "application/json")
            self.send_header("Content-Length", str(len(data)))
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, format: str, *args: object) -> None:
            """Nothing is said of it."""

    return Handler


def _as_it_is(bed: Bed) -> dict[str, Any]:
    return {
        "width": bed.width,
        "height": bed.height,
        "taken": bed.taken,
        "fault": bed.fault or "",
        "done": [[*one] for one in list(bed.done)],
    }


def _changed(bed: Bed, path: str, asked: Any) -> tuple[int, dict[str, Any]]:
    if path == "/sheet":
        bed.clear()
        return 200, {}
    if path == "/fault" and isinstance(asked, dict):
        fault, after = asked.get("fault", ""), asked.get("after", 0)
        if (fault in FAULTS or not fault) and isinstance(after, int) and after >= 0:
            # Counted from now on.
            bed.fault, bed.after = fault or None, bed.taken + after
            return 200, {}
    return 400, {"faults": list(FAULTS)}
