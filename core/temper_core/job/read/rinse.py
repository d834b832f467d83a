"""What a reading of a rinse says of the old coolant that is left."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.calculate.flush.estimate import Estimate, Share, Source, bounded, corrected
from temper_core.instruments import ReadingAnswer
from temper_core.job.inside.rounds import Flush, Round, finished, groups_of
from temper_core.machine.contents import Contents
from temper_core.machine.equipment import Equipment


@dataclass(frozen=True, slots=True)
class Found:
    """Strength of the coolant as found [% by volume] (None: never read), and what the ledger knows of this round's share.

    contradicts: they are further apart than chance. before, after: relative to the figure that the fold predicts, without
    this reading and with it; standard deviations.
    """

    percent: float | None
    sd_percent: float
    before_sd: float
    after: float
    after_sd: float
    contradicts: bool = False


def read_rinse(
    flush: Flush, contents: Contents, answer: ReadingAnswer, found: Found, agreement_sds: float, equipment: Equipment
) -> tuple[Contents, Message]:
    """A reading of the last round's fluid: corrects the prediction, bounds it, or counts for nothing, and says which."""
    row = flush.rounds[-1]
    circulated = _circulated(contents, equipment, row)
    if any(row.cleaner.get(v, 0.0) > 1.0 for v in circulated):
        return contents, say("cleaner_in", "Cleaner is inside: glycol readings do not count.")
    if found.percent is None or found.percent < 1.0 or answer.strength_percent is None:
        return contents, say("no_share", "The coolant was not read as found, so its share is unknown.")
    shares = [share for v in circulated if (share := row.vessels.get(v)) is not None]
    if row.facts is None or not shares:
        return contents, say("as_found", "This is a reading as found, not of a rinse.")
    if row.ran is None:
        return contents, say("not_mixed", "Not run: the sample is not mixed, so it is not counted.")
    predicted = max(shares)
    before = Share(predicted, predicted * found.before_sd)
    share = 100 * answer.strength_percent / found.percent
    now = Share(predicted * found.after, predicted * found.after_sd)
    if answer.below_detection:
        estimate = bounded(before, now, share, agreement_sds)
        words = "Below {bound_percent} (instrument limit). Using the calculated {old_percent}."
        if estimate.share.percent < predicted:
            words = "Below {bound_percent} (instrument limit), less than the predicted {old_percent}: using the limit."
        said = say("bounded", words, bound_percent=share, old_percent=predicted)
    else:
        read = Share(share, _read_sd(answer, found, share))
        estimate = corrected(before, read, now, agreement_sds)
        words = "Read {read_percent} old coolant, predicted {old_percent}: using {now_percent}."
        if found.contradicts:
            estimate = Estimate(read if share > predicted else before, Source.CORRECTED, True)
            words += " They differ by more than chance, so the worse counts: check litres, capacity and zero."
        said = say("corrected", words, read_percent=share, old_percent=predicted, now_percent=estimate.share.percent)
    return _reckon(contents, row, circulated, estimate), said


def _circulated(contents: Contents, equipment: Equipment, row: Round) -> Sequence[str]:
    """The vessels that the jar speaks for: those that mixed, or the one that was drained."""
    if row.ran is None:
        return list(contents.by_vessel)
    groups = groups_of(contents, equipment, row.ran)
    return max(groups, key=len, default=[])


def _read_sd(answer: ReadingAnswer, found: Found, share: float) -> float:
    strength, percent = answer.strength_percent or 0.0, found.percent or 1.0
    line = answer.spread.strength_percent if answer.spread else 0.0
    return share * math.hypot(line / max(strength, 1e-9), found.sd_percent / percent)


def _reckon(contents: Contents, row: Round, vessels: Sequence[str], estimate: Estimate) -> Contents:
    predicted = max((row.vessels[v] or 0.0) for v in vessels)
    row.estimate = estimate
    if predicted <= 0 or estimate.share.percent == predicted:
        return contents
    factor = estimate.share.percent / predicted
    thinned = contents.thinned(vessels, factor)
    row.vessels |= {v: (old * factor if (old := row.vessels[v]) is not None else None) for v in vessels}
    if row.finished is not None:
        row.finished = finished(thinned)
    return thinned


def source_of(row: Round) -> Source:
    """What the shares of a round rest on."""
    return row.estimate.source if row.estimate else Source.PREDICTED
