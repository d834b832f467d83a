"""How the record tells the final check and the sign-off."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.inside.verdict import VERDICT_NAMES
from temper_core.job.verify.facts import LEVEL_NAMES, FinishChecked, SignedOff


def finish_checked(facts: FinishChecked) -> Message:
    level = say("level", "Final check: level {level} at {at_c:0}", level=LEVEL_NAMES[facts.level], at_c=facts.level_c)
    if facts.leak is None:
        return join("finish_checked", [level, say("leak", "leak test not done: {why}", why=facts.no_leak_proof)])
    words = "{lost_kpa} lost in {minutes} min"
    leak = say("leak", words, lost_kpa=facts.leak.drop_kpa, minutes=f"{facts.leak.minutes:g}")
    return join("finish_checked", [level, leak])


def signed_off(facts: SignedOff) -> Message:
    verdict = VERDICT_NAMES.get(facts.proof, facts.proof)
    if facts.reason:
        return say("signed_off", "Signed off: {verdict} ({why})", verdict=verdict, why=facts.reason)
    return say("signed_off", "Signed off: {verdict}", verdict=verdict)
