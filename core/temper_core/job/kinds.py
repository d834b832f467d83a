"""Every kind of entry, by its stage. To add one: its facts, what it does and asks, and a line in its stage's `kinds.py`."""

from __future__ import annotations

from temper_core.job.apart import kinds as apart
from temper_core.job.between import kinds as between
from temper_core.job.dose import kinds as dose
from temper_core.job.drain import kinds as drain
from temper_core.job.entry_kind import Registry
from temper_core.job.fill import kinds as fill
from temper_core.job.flush import kinds as flush
from temper_core.job.identify import kinds as identify
from temper_core.job.inspect import kinds as inspect
from temper_core.job.mix import kinds as mix
from temper_core.job.open import kinds as open_
from temper_core.job.parking import kinds as parking
from temper_core.job.read import kinds as read
from temper_core.job.verify import kinds as verify
from temper_core.job.visit import kinds as visit
from temper_core.job.waiting import kinds as waiting

STAGES = (visit, identify, inspect, dose, open_, waiting, drain, flush, mix, fill, read, verify, between, parking, apart)
REGISTRY = Registry(kind for stage in STAGES for kind in stage.KINDS)
