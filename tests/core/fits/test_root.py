"""The search for a root, against functions whose roots are known, and against SciPy's."""

from __future__ import annotations

import math
import unittest
from collections.abc import Callable

from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from ulvent.core.fits.root import EXACT, HOLDS, bounded_root, root


class Trials:
    """A condition that counts how often it is asked."""

    def __init__(self, condition: Callable[[float], float]) -> None:
        self.condition, self.asked = condition, 0

    def __call__(self, at: float) -> float:
        self.asked += 1
        return self.condition(at)


def linear_guess(start: float, length: float) -> Callable[[float], float]:
    """What a fit takes for its second trial: lengths grow with the unknown."""
    return lambda miss: start * (1.0 + miss / length)


class Roots(unittest.TestCase):
    @settings(max_examples=200)
    @given(st.floats(0.5, 200), st.floats(0, 30), st.floats(0.2, 5), st.floats(0.5, 100))
    def test_where_scipy_finds_it(
        self, room: float, curve: float, slope: float, start: float
    ) -> None:
        """Falling conditions, curved as those of letters on rings are."""

        def condition(x: float) -> float:
            return room - slope * x - curve * math.log1p(x)

        trials = Trials(condition)
        found = root(trials, start, linear_guess(start, room), 1e-6, 1e6)
        self.assertTrue(found.exact)
        exact = brentq(condition, 1e-9, 1e6, xtol=1e-13, rtol=1e-14)
        self.assertAlmostEqual(found.value, exact, delta=10 * EXACT * max(1.0, exact))

    @given(st.floats(0.5, 200), st.floats(0, 30), st.floats(0.2, 5), st.floats(0.5, 100))
    def test_what_may_be_left_over_is_room(
        self, room: float, curve: float, slope: float, start: float
    ) -> None:
        def condition(x: float) -> float:
            return room - slope * x - curve * math.log1p(x)

        guess = linear_guess(start, room)
        trials, finely = Trials(condition), Trials(condition)
        found = root(trials, start, guess, 1e-6, 1e6, within=1e-4)
        exact = root(finely, start, guess, 1e-6, 1e6)
        self.assertTrue(found.exact)
        self.assertTrue(0.0 <= condition(found.value) <= 1e-4)
        self.assertLessEqual(trials.asked, finely.asked)
        self.assertLessEqual(found.value, exact.value + EXACT)

    def test_in_few_trials_where_it_is_nearly_straight(self) -> None:
        trials = Trials(lambda x: 100.0 - 5.0 * x - 0.01 * x * x)
        self.assertTrue(root(trials, 12.0, linear_guess(12.0, 62.0), 0.0, 1e4).exact)
        self.assertLessEqual(trials.asked, 6)

    def test_a_condition_that_rises(self) -> None:
        found = root(lambda x: x * x - 2.0, 5.0, lambda miss: 4.0, 0.0, 100.0, rises=True)
        self.assertAlmostEqual(found.value, math.sqrt(2.0), places=8)

    def test_a_jump_is_found_from_the_side_with_room(self) -> None:
        found = root(lambda x: 3.0 if x < 7.25 else -1.0, 1.0, lambda miss: 2.0, 0.0, 100.0)
        self.assertTrue(found.found)
        self.assertFalse(found.exact)
        self.assertLess(found.value, 7.25)
        self.assertAlmostEqual(found.value, 7.25, delta=1e-5)

    def test_a_condition_that_cannot_be_had_beyond_a_place(self) -> None:
        found = root(lambda x: 5.0 - x if x < 4 else -math.inf, 1.0, lambda miss: 2.0, 0.0, 100.0)
        self.assertTrue(found.found)
        self.assertAlmostEqual(found.value, 4.0, delta=1e-5)

    def test_room_without_end_is_said(self) -> None:
        for condition, at in ((lambda x: 1.0 + x, 50.0), (lambda x: -1.0 - x, 0.5)):
            found = root(condition, 2.0, lambda miss: 3.0, 0.5, 50.0)
            self.assertFalse(found.found)
            self.assertEqual(found.value, at)


class BoundedRoots(unittest.TestCase):
    def test_the_first_end_of_room_counts(self) -> None:
        """Room up to 3, none to 5, room again to 9: what is wanted is 3."""

        def condition(x: float) -> float:
            return (3.0 - x) * (5.0 - x) * (9.0 - x)

        for start in (1.0, 2.9, 4.0):
            found = bounded_root(condition, start, 0.1, 100.0)
            self.assertAlmostEqual(found.value, 3.0, delta=HOLDS)

    def test_that_of_a_condition_which_rises_comes_from_above(self) -> None:
        found = bounded_root(lambda x: x - 3.0, 10.0, 0.1, 100.0, rises=True)
        self.assertAlmostEqual(found.value, 3.0, delta=HOLDS)


if __name__ == "__main__":
    unittest.main()
