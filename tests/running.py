"""The real application as a process, over its own PostgreSQL in a folder that is thrown away."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
from pathlib import Path
from typing import Any

ULVENT = Path(sys.executable).with_name("ulvent")
_READY = re.compile(r"ready at (http://127\.0\.0\.1:\d+)")
_START_SECONDS = 150.0


class RunningUlvent:
    """`ulvent serve`, started; `address` is where it answers."""

    def __init__(
        self, folder: Path, *options: str, program: Path = ULVENT, **environment: str
    ) -> None:
        self.folder = folder
        self.lines: list[str] = []
        self.process = subprocess.Popen(
            [program, "serve", "--var", str(folder), *options],
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            env={**os.environ, "PYTHONUNBUFFERED": "1", **environment},
        )
        self._ready = threading.Event()
        self.address = ""
        # What is started once for all tests is stopped when a process exits, after its threads end.
        self._reader = threading.Thread(target=self._read, daemon=True)
        self._reader.start()

    def _read(self) -> None:
        assert self.process.stdout is not None
        for line in self.process.stdout:
            self.lines.append(line.rstrip())
            if found := _READY.search(line):
                self.address = found.group(1)
                self._ready.set()
        self._ready.set()

    def wait_until_ready(self) -> RunningUlvent:
        if not self._ready.wait(_START_SECONDS) or not self.address:
            self.stop()
            raise AssertionError("did not start:\n" + "\n".join(self.lines))
        return self

    def stop(self, sign: signal.Signals = signal.SIGTERM) -> int:
        """Send a signal and wait; the exit code."""
        if self.process.poll() is None:
            self.process.send_signal(sign)
        code = self.process.wait(30)
        self._reader.join()
        assert self.process.stdout is not None
        self.process.stdout.close()
        return code

    def asked(self, path: str, body: Any = None) -> Any:
        """What it answers to a question, or with a body to a wish."""
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json"} if data is not None else {}
        request = urllib.request.Request(self.address + path, data, headers)
        with urllib.request.urlopen(request, timeout=60) as answer:
            return json.loads(answer.read())

    def database_processes(self) -> list[int]:
        """Process ids of PostgreSQL servers on this folder's data."""
        data = str((self.folder / "postgres").resolve()).encode()
        found: list[int] = []
        for entry in Path("/proc").glob("[0-9]*/cmdline"):
            try:
                command = entry.read_bytes()
            except OSError:
                continue
            if command.split(b"\0")[0].endswith(b"/postgres") and data in command:
                found.append(int(entry.parent.name))
        return found


def temporary_folder() -> Path:
    folder = Path(tempfile.mkdtemp(prefix="ulvent-run-"))
    folder.chmod(0o755)
    return folder


def remove(folder: Path) -> None:
    shutil.rmtree(folder, ignore_errors=True)


def eventually(condition, seconds: float = 60) -> bool:
    """Whether `condition` becomes true: how long is waited says nothing of how fast it must be."""
    deadline = time.monotonic() + seconds
    while time.monotonic() < deadline:
        if condition():
            return True
        time.sleep(0.1)
    return False
