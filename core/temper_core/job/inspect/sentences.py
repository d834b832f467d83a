"""How the record tells samples, checks, what was left out, and the decision."""

from __future__ import annotations

from temper_core.basis.message import Message, capitalised, join, say
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import CHECK_ROWS, LOOK_ROWS, SPOT_NAMES, Check, Figure, Sampled, Tested
from temper_core.job.job_types import JOB_TYPE_NAMES

_SUFFIX = {"temperature": "_c", "pressure": "_kpa", "volume": "_l"}


def sampled(facts: Sampled) -> Message:
    parts = [say("look", "{look}", look=LOOK_ROWS[look].name.lower()) for look in facts.looks]
    if facts.sediment_mm is not None:
        parts.append(say("sediment", "{mm} mm sediment", mm=f"{facts.sediment_mm:g}"))
    where = SPOT_NAMES[facts.spot]
    return join("sampled", [say("where", "Sample {where}:", where=where[:1].lower() + where[1:]), join("seen", parts)], " ")


def tested(facts: Tested) -> Message:
    row = CHECK_ROWS[facts.check]
    told = [_figure(figure, facts) for figure in row.figures if figure.key in facts.figures]
    if facts.outcome is not None:
        told.insert(0, say("answer", "{answer}", answer=next(o.name for o in row.outcomes if o.key == facts.outcome)))
    return join("tested", [say("check", "{check}:", check=row.name), join("figures", told)], " ")


def _figure(figure: Figure, facts: Tested) -> Message:
    value = facts.figures[figure.key]
    if figure.kind in _SUFFIX:
        name = f"value{_SUFFIX[figure.kind]}"
        decimals = "" if figure.kind == "volume" else ":0"
        return say(figure.key, f"{{name}} {{{name}{decimals}}}", name=figure.name, **{name: value})
    if figure.unit == figure.name:
        return say(figure.key, "{name} {value}", name=figure.name, value=f"{value:g}")
    return say(figure.key, "{name} {value} {unit}", name=figure.name, value=f"{value:g}", unit=figure.unit)


def _names(checks: tuple[Check, ...]) -> str:
    return ", ".join(CHECK_ROWS[check].name.lower() for check in checks)


def skipped(facts: Skipped) -> Message:
    return say("skipped", "Left out: {checks} ({why})", checks=_names(facts.checks), why=facts.reason)


def job_type_chosen(facts: JobTypeChosen) -> Message:
    job_type, advised = JOB_TYPE_NAMES[facts.job_type], JOB_TYPE_NAMES[facts.advised]
    if not facts.overrides:
        return say("routed", "{job}, as advised", job=capitalised(job_type))
    words = "{job}, against advice ({advised}): {why}"
    return say("routed_against", words, job=capitalised(job_type), advised=advised, why=facts.reason)
