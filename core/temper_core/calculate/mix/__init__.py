"""Mixes: plan, ready-mix, correction, batch, top-up, and what a reading teaches about the capacity."""

from temper_core.calculate.mix.batch import BUCKET_L, JUG_L, BatchAnswer, BatchQuestion, batch
from temper_core.calculate.mix.containers import Container
from temper_core.calculate.mix.correction import CorrectionAnswer, CorrectionQuestion, Now, correct
from temper_core.calculate.mix.learning import Believed, LearnedCapacity, learn_capacity
from temper_core.calculate.mix.likely import InputShare, Likely, LitresSpread
from temper_core.calculate.mix.plan import MixAnswer, mix
from temper_core.calculate.mix.question import (
    LARGEST_LOOP_L,
    MOST_POURS,
    Final,
    Infeasible,
    Inside,
    MixQuestion,
    Pour,
)
from temper_core.calculate.mix.ready_mix import Boost, ReadyMixAnswer, ReadyMixQuestion, ready_mix
from temper_core.calculate.mix.spread import Spread
from temper_core.calculate.mix.target import suggested_target_c, target_note
from temper_core.calculate.mix.top_up import TopUpAnswer, TopUpQuestion, split_mixture, top_up
from temper_core.calculate.mix.whole_cans import WholeCansAnswer, WholeCansQuestion, whole_cans

__all__ = [
    "BUCKET_L",
    "JUG_L",
    "LARGEST_LOOP_L",
    "MOST_POURS",
    "BatchAnswer",
    "BatchQuestion",
    "Believed",
    "Boost",
    "Container",
    "CorrectionAnswer",
    "CorrectionQuestion",
    "Final",
    "Infeasible",
    "InputShare",
    "Inside",
    "LearnedCapacity",
    "Likely",
    "LitresSpread",
    "MixAnswer",
    "MixQuestion",
    "Now",
    "Pour",
    "ReadyMixAnswer",
    "ReadyMixQuestion",
    "Spread",
    "TopUpAnswer",
    "TopUpQuestion",
    "WholeCansAnswer",
    "WholeCansQuestion",
    "batch",
    "correct",
    "learn_capacity",
    "mix",
    "ready_mix",
    "split_mixture",
    "suggested_target_c",
    "target_note",
    "top_up",
    "whole_cans",
]
