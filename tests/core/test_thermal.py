"""The thermal model of a true loop: against SciPy's integrator, the balance of heat, and what every technician knows."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from temper_core.basis.errors import CoreError
from temper_core.simulate import thermal
from temper_core.simulate.thermal import Body, Thermostat, after, cold, opened, pressure_kpa, rates, soft

BODY = Body(volume_l=16.0, radiator_l=5.0, gas_l=1.2, cap_kpa=95.0, ambient_c=18.0)
HOUR = 3600.0


@pytest.mark.parametrize("running", [True, False])
@pytest.mark.parametrize("thermostat", list(Thermostat))
def test_the_steps_are_those_of_scipys_integrator(running, thermostat):
    """scipy.integrate.solve_ivp, Radau, a quarter of an hour, before anything boils."""
    body = Body(16.0, 5.0, 1.2, 95.0, 18.0, thermostat=thermostat)
    start = cold(body) if running else thermal.replace(cold(body), hot_c=92.0, cold_c=80.0)
    solved = solve_ivp(
        lambda _, y: rates(body, y[0], y[1], running), (0, 900), [start.hot_c, start.cold_c], "Radau", rtol=1e-8, atol=1e-8
    )
    now = after(body, start, 900, running)
    assert now.hot_c == pytest.approx(solved.y[0, -1], abs=0.1)
    assert now.cold_c == pytest.approx(solved.y[1, -1], abs=0.1)


def test_heat_is_conserved():
    """What the engine gives is in the bodies or in the air."""
    now, given, lost, h = cold(BODY), 0.0, 0.0, 2.0
    for _ in range(900):
        nxt = after(BODY, now, h, True)
        hot, cold_c = (now.hot_c + nxt.hot_c) / 2, (now.cold_c + nxt.cold_c) / 2
        given += BODY.idle_w * h
        lost += h * (BODY.block_w_k * (hot - BODY.ambient_c) + BODY.still_w_k(True) * (cold_c - BODY.ambient_c))
        now = nxt
    kept = BODY.hot_j_k * (now.hot_c - BODY.ambient_c) + BODY.cold_j_k * (now.cold_c - BODY.ambient_c)
    assert kept + lost == pytest.approx(given, rel=2e-3)


def test_an_idling_engine_settles_in_its_thermostat():
    now = after(BODY, cold(BODY), 2 * HOUR, True)
    assert BODY.opens_c < now.hot_c < BODY.opens_c + thermal.OPENS_OVER_K
    assert max(abs(rate) for rate in rates(BODY, now.hot_c, now.cold_c, True)) < 1e-3


def test_three_minutes_do_not_open_a_thermostat_and_half_an_hour_does():
    assert opened(BODY, after(BODY, cold(BODY), 180, True).hot_c) == thermal.STUCK_LEAK
    assert opened(BODY, after(BODY, cold(BODY), 1800, True).hot_c) > 0.05
    upper, lower = thermal.hose_hot(after(BODY, cold(BODY), 600, True))
    assert (upper, lower) == (True, False)  # the upper hose is hot long before the lower one


def test_stuck_open_it_stays_cool_and_stuck_shut_it_overheats():
    stuck_open = after(Body(16.0, 5.0, 1.2, 95.0, -10.0, thermostat=Thermostat.OPEN), cold(BODY), HOUR, True)
    assert stuck_open.hot_c < 75
    stuck_shut = after(Body(16.0, 5.0, 1.2, 95.0, 18.0, thermostat=Thermostat.SHUT), cold(BODY), HOUR, True)
    assert stuck_shut.hot_c > 115


def test_it_cools_for_an_hour_and_more_and_the_hose_stays_hard_meanwhile():
    hot = after(BODY, cold(BODY), HOUR, True)
    assert pressure_kpa(BODY, hot) > 40
    assert not soft(BODY, hot)
    warm = after(BODY, hot, 900, False)
    assert warm.hot_c > 60  # a quarter of an hour is not enough
    assert not soft(BODY, warm)
    over_night = after(BODY, hot, 12 * HOUR, False)
    assert over_night.hot_c == pytest.approx(BODY.ambient_c, abs=2)
    assert soft(BODY, over_night)


def test_the_cap_holds_no_more_than_it_says():
    small = Body(16.0, 5.0, 0.4, 60.0, 18.0, thermostat=Thermostat.SHUT)
    now = after(small, cold(small), HOUR, True)
    assert pressure_kpa(small, now) == pytest.approx(60.0, abs=0.5)
    assert now.gas < cold(small).gas  # what it vented is gone
    assert now.hot_c == pytest.approx(thermal.boils_c(small))
    heat = thermal.STEAM_J_PER_L * now.boiled_l
    assert 0.2 < heat / (small.idle_w * HOUR) < 0.8  # a good part of the hour's heat went as steam
    back = after(small, now, 24 * HOUR, False)
    assert pressure_kpa(small, back) == pytest.approx(-3.0, abs=0.5)  # and it stands under vacuum, cold


def test_a_mix_boils_later_under_its_cap():
    """Half glycol at 101.3 kPa boils at some 107 degC, under 95 kPa more at some 127: from memory, to 3 K."""
    assert thermal.boils_c(thermal.replace(BODY, cap_kpa=0.0)) == pytest.approx(108, abs=3)
    assert thermal.boils_c(BODY) == pytest.approx(128.5, abs=3)


def test_vapour_is_that_of_the_steam_table():
    """Saturation of water [kPa], IAPWS-97: 1.2282 at 10, 12.352 at 50, 47.414 at 80, 101.42 at 100 degC; from memory."""
    for c, kpa in ((10, 1.2282), (50, 12.352), (80, 47.414), (100, 101.42)):
        assert thermal.vapour_kpa(c) / thermal.WATER_IN_MIX == pytest.approx(kpa, rel=0.02)


@pytest.mark.parametrize("bad", [{"volume_l": 0.0}, {"radiator_l": 20.0}, {"gas_l": 0.0}, {"ambient_c": 90.0}])
def test_what_cannot_be_is_refused(bad):
    with pytest.raises(CoreError):
        thermal.replace(BODY, **bad)
    with pytest.raises(CoreError):
        after(BODY, cold(BODY), -1, True)


def test_bigger_loops_cool_slower():
    minutes = []
    for litres in (6.0, 16.0, 44.0):
        body = Body(litres, litres / 3, litres / 12, 95.0, 18.0, idle_w=560 * litres)
        now, n = thermal.replace(cold(body), hot_c=88.0, cold_c=80.0), 0
        while now.hot_c > 45 and n < 600:
            now, n = after(body, now, 60, False), n + 1
        minutes.append(n)
    assert np.all(np.diff(minutes) > 0)
    assert 20 < minutes[0] < minutes[2] < 480
