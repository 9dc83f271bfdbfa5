"""Tests of the processes that computing is done in."""
