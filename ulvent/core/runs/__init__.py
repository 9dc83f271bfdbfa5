"""Runs: from a prepared piece and its run sheet to the tracks of each tool, in order."""

from ulvent.core.runs.run import PassRun, Run, run_of
from ulvent.core.runs.run_choices import RunChoice, fresh_pass, run_choices
from ulvent.core.runs.timing import USUAL, Motion
from ulvent.core.runs.tracks import Track
from ulvent.core.runs.usual import plain_sheet

__all__ = [
    "USUAL",
    "Motion",
    "PassRun",
    "Run",
    "RunChoice",
    "Track",
    "fresh_pass",
    "plain_sheet",
    "run_choices",
    "run_of",
]
