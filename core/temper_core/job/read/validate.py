"""May this reading follow now, and does it open the loop?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entry_kind import Attempt, Need
from temper_core.job.loop_state import LoopState
from temper_core.job.read.facts import Place, Read, check_read
from temper_core.science import Glycol


def reading_opens(a: Attempt, facts: Read) -> Need | None:
    """A reading with an instrument opens the loop, unless its jar is at hand."""
    return Need.CAP if facts.instrument is not None and not _jar_at_hand(a.state, facts) else None


def _jar_at_hand(state: LoopState, facts: Read) -> bool:
    """A rinse whose round is drained is read from its jar."""
    rounds = state.flush.rounds if state.flush is not None else ()
    return facts.place is Place.RINSE and bool(rounds) and rounds[-1].out_l is not None


def reading_can_be(a: Attempt, facts: Read) -> None:
    """A record never holds what cannot be read."""
    base = a.state.inside.base
    check_read((base.glycol if base is not None else None) or Glycol.ETHYLENE, facts)


def reading(a: Attempt, facts: Read) -> None:
    """A rinse with an instrument, a finished loop once it is full; raises CoreError or Conflict."""
    if facts.place is Place.RINSE:
        if facts.instrument is None:
            raise CoreError("instrument", "A rinse is read with an instrument. Choose which one.", "required")
        if a.state.flush is None:
            raise Conflict("place", "Nothing is drained yet. Record it as a reading as found.", "not_drained")
    if facts.place is Place.FINISHED and not a.state.poured.at_mark:
        raise Conflict("place", "The loop is not full. Fill to the cold mark, then read.", "not_filled")


def reading_between(a: Attempt, facts: Read) -> None:
    """Without a job a reading is one as found; raises CoreError."""
    if facts.place is not Place.AS_FOUND:
        raise CoreError("place", "Without a job only a reading as found is possible. Choose “as found”.", "not_as_found")
