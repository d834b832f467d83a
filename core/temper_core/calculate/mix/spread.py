"""How sure the figures of a plan are, and which of them go together."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import check_between, under


@dataclass(frozen=True, slots=True)
class Spread:
    """Standard deviations of what goes into a plan, and what goes together.

    drained_l, inside_strength_percent: what each has besides. inside_per_capacity: litres more inside for each litre that
    the loop holds more (1: nothing else is known of them); strength_per_capacity, strength_per_inside: change of the
    strength inside [% by volume] for each of those litres.
    """

    loop_volume_l: float = 0.0
    drained_l: float = 0.0
    inside_strength_percent: float = 0.0
    glycol_mass_percent: float = 0.0
    inside_per_capacity: float = 1.0
    strength_per_capacity: float = 0.0
    strength_per_inside: float = 0.0

    @property
    def together(self) -> bool:
        """Whether strength goes with litres."""
        return self.strength_per_capacity != 0 or self.strength_per_inside != 0


def check_spread(spread: Spread, loop_volume_l: float) -> None:
    """Refuse a spread that is no size."""
    with under("spread"):
        for name in ("loop_volume_l", "drained_l"):
            check_between(name, getattr(spread, name), 0, loop_volume_l, "L", "A spread must be positive.")
        for name in ("inside_strength_percent", "glycol_mass_percent"):
            check_between(name, getattr(spread, name), 0, 50, "%", "A spread must be positive.")
        check_between("inside_per_capacity", spread.inside_per_capacity, -10, 10, "", "1 where nothing else is known.")
        for name in ("strength_per_capacity", "strength_per_inside"):
            check_between(name, getattr(spread, name), -1e4, 1e4, "% a litre", "0 where nothing is known of it.")
