"""One piece for many names: a pattern with fields, rows that fill it, results, sheets of them.

No files and no interface here; who reads lists and writes results stands outside.
"""

from ulvent.core.series.matched import Matched, matched
from ulvent.core.series.pattern import Pattern
from ulvent.core.series.results import Result, one_height, result_of, with_own

__all__ = [
    "Matched",
    "Pattern",
    "Result",
    "matched",
    "one_height",
    "result_of",
    "with_own",
]
