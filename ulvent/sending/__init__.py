"""Sending: a program to a machine, step by step, each answered for and written down.

A `Sender` has one thread for each job that is under way. What is sent, and how far it has come, is
in the store; the thread has only the link to the machine.
"""

from ulvent.sending.sender import NotAllowedError, NotNowError, Sender
from ulvent.sending.talk import Patience

__all__ = ["NotAllowedError", "NotNowError", "Patience", "Sender"]
