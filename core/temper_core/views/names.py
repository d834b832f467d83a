"""Names of the trade, once: what the API serves and the screen shows for every code."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

from temper_core.basis.message import capitalised
from temper_core.basis.policy import GROUP_MEANS, GROUP_NAMES
from temper_core.calculate.mix.likely import MIX_INPUT_MEASURED, MIX_INPUT_NAMES
from temper_core.instruments.flag_names import READING_FLAG_NAMES, WATCH_NAMES
from temper_core.instruments.kinds import KINDS
from temper_core.instruments.scales import SCALE_NAMES
from temper_core.job.between.facts import LOST_WHEN_NAMES
from temper_core.job.drain.facts import MEASURED_NAMES
from temper_core.job.flush.facts import METHOD_NAMES, WASTE_NAMES
from temper_core.job.identify.facts import TOPPED_UP_NAMES
from temper_core.job.inside.claim import CLAIM_NAMES
from temper_core.job.inside.verdict import VERDICT_NAMES
from temper_core.job.inspect.facts import LOOK_ROWS
from temper_core.job.job_types import JOB_TYPE_MEANS, JOB_TYPE_NAMES, STAGE_NAMES
from temper_core.job.loop import CAPACITY_NAMES
from temper_core.job.open.facts import RAN_SINCE_NAMES
from temper_core.job.parking.facts import PARKING_NAMES
from temper_core.job.parking.state import LOW_SOURCE_NAMES
from temper_core.job.read.facts import PLACE_NAMES
from temper_core.job.waiting.state import TIMER_NAMES
from temper_core.machine.circuit import BLEEDER_NAMES, NODE_KIND_NAMES, VIA_NAMES
from temper_core.machine.equipment import FILTER_NAMES, LEVEL_RULE_NAMES, TANK_NAMES
from temper_core.products.agents import AGENT_KIND_NAMES
from temper_core.products.chemistry import BASE_NAMES, FAMILY_NAMES, FORM_NAMES, LOOP_USE_NAMES, MATERIAL_NAMES
from temper_core.products.shelf import CAN_KIND_NAMES
from temper_core.products.water import WATER_NAMES, WATER_VERDICT_NAMES
from temper_core.views.board.bands import BAND_NAMES
from temper_core.views.figures import FIGURE_KIND_NAMES
from temper_core.views.glossary import GLOSSARY, STAGE_MEANS
from temper_core.views.loop_line import LOOP_SIGN_NAMES
from temper_core.views.plan import PLAN_KIND_NAMES

_Code = TypeVar("_Code", bound=str)


def _heads(names: Mapping[_Code, str]) -> dict[str, str]:
    """As they stand alone, on a key or in a head."""
    return {str(code): capitalised(name) for code, name in names.items()}


def _within(names: Mapping[_Code, str]) -> dict[str, str]:
    """As they stand within a sentence."""
    return {str(code): name for code, name in names.items()}


NAMES: Mapping[str, Mapping[str, str]] = {
    "family": _heads(FAMILY_NAMES),
    "base": _within(BASE_NAMES),
    "form": _within(FORM_NAMES),
    "stage": _heads(STAGE_NAMES),
    "job_type": _heads(JOB_TYPE_NAMES),
    "glossary": GLOSSARY,
    "stage_means": STAGE_MEANS,
    "loop_sign": _heads(LOOP_SIGN_NAMES),
    "job_type_means": _within(JOB_TYPE_MEANS),
    "topped_up": _within(TOPPED_UP_NAMES),
    "tank": _within(TANK_NAMES),
    "level_rule": _within(LEVEL_RULE_NAMES),
    "loop_use": _within(LOOP_USE_NAMES),
    "filter": _within(FILTER_NAMES),
    "water_kind": _within(WATER_NAMES),
    "method": _heads(METHOD_NAMES),
    "waste": _heads(WASTE_NAMES),
    "proof": _heads(VERDICT_NAMES),
    "measured": _within(MEASURED_NAMES),
    "timer": _within(TIMER_NAMES),
    "band": _heads(BAND_NAMES),
    "plan_kind": _heads(PLAN_KIND_NAMES),
    "figure_kind": _heads(FIGURE_KIND_NAMES),
    "parking": _within(PARKING_NAMES),
    "can_kind": _within(CAN_KIND_NAMES),
    "lost_when": _within(LOST_WHEN_NAMES),
    "low_source": _within(LOW_SOURCE_NAMES),
    "mix_input": _heads(MIX_INPUT_NAMES),
    "mix_input_measured": _within(MIX_INPUT_MEASURED),
    "claim": _within(CLAIM_NAMES),
    "node_kind": _within(NODE_KIND_NAMES),
    "via": _within(VIA_NAMES),
    "bleeder": _within(BLEEDER_NAMES),
    "agent_kind": _within(AGENT_KIND_NAMES),
    "scale": _within(SCALE_NAMES),
    "instrument_kind": {kind.value: facts.name.lower() for kind, facts in KINDS.items()},
    "water_verdict": _within(WATER_VERDICT_NAMES),
    "place": _within(PLACE_NAMES),
    "ran": _heads(RAN_SINCE_NAMES),
    "rule_group": _heads(GROUP_NAMES),
    "rule_group_means": _within(GROUP_MEANS),
    "look": {look.value: row.name.lower() for look, row in LOOK_ROWS.items()},
    "reading_flag": dict(READING_FLAG_NAMES),
    "watch": {code: capitalised(name) for code, name in WATCH_NAMES.items()},
    "material": _within(MATERIAL_NAMES),
    "capacity_from": _within(CAPACITY_NAMES),
}
