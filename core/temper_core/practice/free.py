"""Free practice: any layout of the catalogue, and a seed that draws what is so; the same seed gives the same truth."""

from __future__ import annotations

from random import Random

from temper_core.basis.errors import check_between
from temper_core.job.job_types import JobType
from temper_core.machine.layouts import BY_KEY, generic_layout
from temper_core.practice.lesson import Aim, Goal, Lesson, TrueOf
from temper_core.products.chemistry import Family
from temper_core.simulate.thermal import Thermostat

LARGEST_SEED = 999_999
COLDEST_C = -25.0


def free(layout: str, capacity_l: float, seed: int) -> Lesson:
    """A loop of this layout with what the seed draws for it: strength, level, dirt, thermostat, leak, scale and glass.

    Raises CoreError for a layout or a size that cannot be.
    """
    generic_layout(layout, capacity_l)
    check_between("seed", seed, 1, LARGEST_SEED, "", "Any whole number.")
    rng = Random(f"{layout}-{capacity_l:g}-{seed}")
    electronics = layout == "power_electronics"
    of = TrueOf(
        "Loop",
        layout,
        capacity_l,
        found_percent=round(rng.uniform(20, 52), 1),
        believed_percent=50.0,
        believed_family=Family.LOW_CONDUCTIVITY if electronics else rng.choice((Family.OAT, Family.IAT)),
        families=(Family.LOW_CONDUCTIVITY,) if electronics else (Family.OAT,),
        missing_l=round(rng.choice((0.0, rng.uniform(0.02, 0.08))) * capacity_l, 2),
        air_share=round(rng.uniform(0.01, 0.05), 3),
        leak_l_day=round(rng.choice((0.0, 0.0, 0.0, 0.006)) * capacity_l, 3),
        thermostat=rng.choice((Thermostat.WORKS,) * 4 + (Thermostat.SHUT, Thermostat.OPEN)),
        dirt=not electronics and rng.random() < 0.4,
        high_voltage=electronics,
        low_conductivity=electronics,
    )
    old = 5.0 if of.believed_family is Family.IAT else 10.0
    aims = (
        Aim(Goal.UNSAFE, "Nobody is put at risk", "Make sure that it is cold before it is opened.", high=0),
        Aim(Goal.FREEZE_C, "It protects to the target", "Pour the litres of the plan.", high=-27),
        Aim(Goal.OLD_PERCENT, "Little enough of the old coolant is left", "Rinse by the counted share.", high=old),
        Aim(Goal.SIGNED, "The job is signed off", "Finish the job: read, check, sign.", low=1),
    )
    return Lesson(
        key=f"free-{layout.replace('_', '-')}",
        order=1000,
        name=f"Free practice: {BY_KEY[layout].name.lower()}",
        story="A machine comes in. Not much is known of it.",
        learn=("Do the whole job as you would, and see what was so.",),
        trap="What the seed drew is shown in the steps above.",
        job_type=JobType.CHANGE_TYPE,
        machine="Practice machine",
        coldest_c=COLDEST_C,
        loops=(of,),
        aims=aims,
        ran_min=rng.choice((0.0, 15.0)),
        scale_off_percent=rng.choice((0.0, 0.0, 0.0, 4.0, -4.0)),
        glass_off_k=rng.choice((0.0, 0.0, 1.5, -1.5)),
    )
