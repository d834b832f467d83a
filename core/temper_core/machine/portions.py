"""Litres spread over vessels, as far as each has room."""

from __future__ import annotations

from collections.abc import Mapping


def spread_over(wanted_l: float, weights: Mapping[str, float], room: Mapping[str, float]) -> dict[str, float]:
    """Share litres over vessels in proportion to weights, none beyond its room; the rest goes on to the others.

    Returns litres per vessel, adding up to wanted_l (or to all the room, if that is less).
    """
    given = dict.fromkeys(room, 0.0)
    left = min(wanted_l, sum(room.values()))
    pull = {name: weights.get(name, 0.0) for name in room}
    for _ in range(2 * len(room) + 2):
        open_ = {n: p for n, p in pull.items() if p > 0 and room[n] - given[n] > 1e-12}
        if left <= 1e-12:
            break
        if not open_:  # what the weights reach is used up: the rest by room
            pull = {name: room[name] - given[name] for name in room}
            continue
        total = sum(open_.values())
        portion = left
        for name, weight in open_.items():
            take = min(room[name] - given[name], portion * (weight / total))
            given[name] += take
            left -= take
    return given
