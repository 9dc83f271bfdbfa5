"""Simulated machines: small servers on loopback that do what they are told, and keep it.

A plotter takes HP-GL as it comes; a beam-and-router takes G-code line by line and says `ok` to
each. Both have a bed, and faults that can be switched on. What came out can be looked at, and held
against what was meant.
"""

from ulvent.machines.beam_machine import BeamMachine
from ulvent.machines.bed import FAULTS, Bed, Done, Fault, done_of
from ulvent.machines.listening import Listening
from ulvent.machines.plotter import Plotter
from ulvent.machines.stand_alone import stand

__all__ = [
    "FAULTS",
    "BeamMachine",
    "Bed",
    "Done",
    "Fault",
    "Listening",
    "Plotter",
    "done_of",
    "stand",
]
