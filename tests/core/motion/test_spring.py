"""Springs against a solver that knows nothing of the closed form."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from outgrowth.core.motion.spring import SETTLED, Spring, bouncing

TIMES = np.linspace(0.0, 2.0, 21)


# Source: SciPy's solve_ivp (references.md: ≤ 1e-6).
@pytest.mark.parametrize(
    "spring",
    [
        Spring(170.0, 26.0),
        Spring(170.0, 5.0),
        Spring(100.0, 20.0),
        Spring(100.0, 60.0),
        Spring(400.0, 18.0, 2.5),
        bouncing(300.0, 0.25),
    ],
    ids=str,
)
@pytest.mark.parametrize("start", [(1.0, 0.0), (0.0, 1.0)], ids=["from rest", "kicked"])
def test_the_closed_form_agrees_with_a_solver(spring, start):
    def change(_, state):
        place, speed = state
        return speed, (-spring.damping * speed - spring.stiffness * place) / spring.mass

    found = solve_ivp(
        change, (0.0, 2.0), start, method="DOP853", t_eval=TIMES, rtol=1e-11, atol=1e-12
    )
    for n, time in enumerate(TIMES):
        at = spring.at_time(time)
        ours = (at.rest, at.rest_rate) if start[0] else (at.kick, at.kick_rate)
        assert ours[0] == pytest.approx(found.y[0][n], abs=1e-6)
        assert ours[1] == pytest.approx(found.y[1][n], abs=1e-5)


@given(st.floats(1.0, 2000.0), st.floats(0.5, 200.0), st.floats(0.1, 10.0), st.floats(1.0, 3.0))
def test_a_settled_spring_stays_settled(stiffness, damping, mass, later):
    spring = Spring(stiffness, damping, mass)
    rest = spring.settling_time()
    assert abs(spring.at_time(rest * later).rest) <= SETTLED * 1.001


def test_bounce_is_critical_at_none_and_swings_over_with_some():
    assert min(bouncing(300.0, 0.0).at_time(t).rest for t in TIMES) >= 0.0
    assert min(bouncing(300.0, 0.4).at_time(t).rest for t in TIMES) < -0.05
