"""Starting and stopping: nothing is left behind, nothing is lost."""

from __future__ import annotations

import os
import signal
import socket
import unittest
import urllib.error
import urllib.request

import psycopg

from tests.makings import document
from tests.running import RunningUlvent, eventually, remove, temporary_folder
from tests.throwaway import database_url
from ulvent.demo import demo_pieces


def healthy(running: RunningUlvent) -> bool:
    try:
        return running.asked("/healthz") == {"status": "ok", "database": "ok"}
    except (urllib.error.URLError, OSError):
        return False


class Serving(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = temporary_folder()
        self.addCleanup(remove, self.folder)

    def start(self, *options: str, **environment: str) -> RunningUlvent:
        options = options or ("--port", "0")
        running = RunningUlvent(self.folder, *options, **environment)
        self.addCleanup(running.stop)
        return running.wait_until_ready()

    def test_however_it_ends_it_leaves_nothing_running_and_keeps_everything(self) -> None:
        titles = ["Kept", "Barrel head", "Beehive plaque", "Brass tree tag"]
        for sign, code in ((signal.SIGTERM, 0), (signal.SIGKILL, -9), (signal.SIGINT, 0)):
            running = self.start()
            if sign is signal.SIGTERM:
                self.assertEqual(len(running.asked("/api/pieces")), len(demo_pieces()))
                running.asked("/api/pieces", {"piece": document(title="Kept")})
            found = [piece["title"] for piece in running.asked("/api/pieces")]
            self.assertEqual(found[:4], titles)
            self.assertEqual(len(running.asked("/api/drawer")), 12)
            self.assertEqual(running.stop(sign), code)
            self.assertTrue(eventually(lambda gone=running: not gone.database_processes()))

    def test_a_database_that_dies_is_started_again_and_only_one_runs(self) -> None:
        """However often: after the fourth time in a row the server used to end."""
        running = self.start()
        made = running.asked("/api/pieces", {"piece": document(title="Kept")})
        assert isinstance(made, dict)
        for _ in range(4):
            killed = set(running.database_processes())
            for process in killed:
                os.kill(process, signal.SIGKILL)
            # It may be back before anyone has seen that it was gone.
            self.assertTrue(
                eventually(
                    lambda killed=killed: (
                        not killed & set(running.database_processes()) and healthy(running)
                    )
                )
            )
        found = running.asked(f"/api/pieces/{made['id']}")
        self.assertEqual(found, made)
        second = RunningUlvent(self.folder)
        self.assertEqual(second.process.wait(150), 0)
        second.stop()
        self.assertEqual(second.lines, [f"Ulvent is already running at {running.address}"])
        self.assertTrue(healthy(running))
        running.stop()
        self.assertEqual(running.database_processes(), [])

    def test_a_taken_port_is_said(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            refused = RunningUlvent(self.folder, "--port", str(port))
            self.assertEqual(refused.process.wait(60), 1)
            refused.stop()
        self.assertEqual(refused.lines[-1], f"Ulvent could not start: port {port} is taken")
        self.assertEqual(refused.database_processes(), [])

    def test_an_existing_database_can_be_used_and_the_demo_left_out(self) -> None:
        with psycopg.connect(database_url(), autocommit=True) as connection:
            connection.execute("DROP DATABASE IF EXISTS elsewhere WITH (FORCE)")
            connection.execute("CREATE DATABASE elsewhere")
        url = database_url().rpartition("/")[0] + "/elsewhere"
        running = self.start("--empty", "--port", "0", ULVENT_DATABASE_URL=url)
        self.assertEqual(running.asked("/api/pieces"), [])
        self.assertFalse((self.folder / "postgres").exists())


if __name__ == "__main__":
    unittest.main()
