"""What the calculators of mixes take and give, in JSON; see CONTRACT in docs/guide.md. Numbers are strictly numbers."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from config.shapes import Body, Number, answer_of
from temper_core.basis.errors import under
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.calculate import mix as core
from temper_core.science import DEFAULT_CONCENTRATE, Branch, Glycol

GlycolName = Literal["ethylene", "propylene"]


class PourIn(Body):
    """Poured since draining; strength 0: water."""

    volume_l: Number
    strength_percent: Number = 0.0


class InsideIn(Body):
    """What is inside: left after draining, and poured on it since. other_base_l of what is left is the other glycol."""

    volume_l: Number
    strength_percent: Number = 0.0
    poured: Annotated[list[PourIn], Field(max_length=core.MOST_POURS)] = []
    other_base_l: Number = 0.0

    def to_core(self) -> core.Inside:
        """As the core takes it; raises CoreError."""
        with under("inside"):
            pours = []
            for i, pour in enumerate(self.poured):
                with under(f"poured.{i}"):
                    pours.append(core.Pour(pour.volume_l, VolumePercent(pour.strength_percent)))
            return core.Inside(self.volume_l, VolumePercent(self.strength_percent), tuple(pours), self.other_base_l)


class ConcentrateIn(Body):
    """The concentrate in use."""

    glycol_mass_percent: Number = DEFAULT_CONCENTRATE * 100

    @property
    def glycol_w(self) -> MassFraction:
        """As a mass fraction."""
        return MassFraction(self.glycol_mass_percent / 100)


class SpreadIn(Body):
    """Standard deviations."""

    loop_volume_l: Number = 0.0
    drained_l: Number = 0.0
    inside_strength_percent: Number = 0.0
    glycol_mass_percent: Number = 0.0
    inside_per_capacity: Number = 1.0
    strength_per_capacity: Number = 0.0
    strength_per_inside: Number = 0.0


class MixIn(Body):
    """How much concentrate and water? be_sure: so that the warm end, curve included, meets the target.

    as_it_is: the product alone up to the cold mark, as a ready-mix is poured.
    """

    glycol: GlycolName
    loop_volume_l: Number
    inside: InsideIn
    target_freeze_c: Number
    concentrate: ConcentrateIn = ConcentrateIn()
    be_sure: bool = False
    as_it_is: bool = False
    spread: SpreadIn | None = None

    def to_core(self) -> core.MixQuestion:
        """The question as the core takes it; raises CoreError."""
        return core.MixQuestion(
            glycol=Glycol(self.glycol),
            loop_volume_l=self.loop_volume_l,
            inside=self.inside.to_core(),
            target_freeze_c=self.target_freeze_c,
            concentrate=self.concentrate.glycol_w,
            spread=core.Spread(**dict(self.spread)) if self.spread else None,
            be_sure=self.be_sure,
            as_it_is=self.as_it_is,
        )


MixOut = answer_of("MixOut", core.MixAnswer)


class ReadyMixStrength(Body):
    """The ready-mix in use, by volume of the default concentrate."""

    strength_percent: Number


class ReadyMixIn(Body):
    """Where does ready-mix alone end, and which concentrate closes the gap?"""

    glycol: GlycolName
    loop_volume_l: Number
    inside: InsideIn
    ready_mix: ReadyMixStrength
    target_freeze_c: Number | None = None
    concentrate: ConcentrateIn = ConcentrateIn()

    def to_core(self) -> core.ReadyMixQuestion:
        """The question as the core takes it; raises CoreError."""
        return core.ReadyMixQuestion(
            glycol=Glycol(self.glycol),
            loop_volume_l=self.loop_volume_l,
            inside=self.inside.to_core(),
            ready_mix_percent=VolumePercent(self.ready_mix.strength_percent),
            target_freeze_c=self.target_freeze_c,
            concentrate=self.concentrate.glycol_w,
        )


ReadyMixOut = answer_of("ReadyMixOut", core.ReadyMixAnswer)


class NowIn(Body):
    """How strong the full loop is: a freeze point (lean unless branch says rich), or a strength."""

    freeze_c: Number | None = None
    strength_percent: Number | None = None
    branch: Literal["lean", "rich"] = "lean"

    def to_core(self) -> core.Now:
        """As the core takes it; raises CoreError."""
        strength = None if self.strength_percent is None else VolumePercent(self.strength_percent)
        with under("now"):
            return core.Now(self.freeze_c, strength, Branch(self.branch))


class CorrectionIn(Body):
    """How much to swap in a full, well-mixed loop?"""

    glycol: GlycolName
    loop_volume_l: Number
    now: NowIn
    target_freeze_c: Number
    concentrate: ConcentrateIn = ConcentrateIn()

    def to_core(self) -> core.CorrectionQuestion:
        """The question as the core takes it; raises CoreError."""
        return core.CorrectionQuestion(
            glycol=Glycol(self.glycol),
            loop_volume_l=self.loop_volume_l,
            now=self.now.to_core(),
            target_freeze_c=self.target_freeze_c,
            concentrate=self.concentrate.glycol_w,
        )


CorrectionOut = answer_of("CorrectionOut", core.CorrectionAnswer)


class ContainerIn(Body):
    """A size the product is sold in; at_hand: how many stand there; sold: more can be bought."""

    size_l: Number
    at_hand: int = 0
    sold: bool = True


class BatchIn(Body):
    """Which cans to open, and where the marks are?"""

    product_l: Number
    water_l: Number
    kept_back_l: Number = 0.0
    containers: Annotated[list[ContainerIn], Field(max_length=100)]
    bucket_l: Number = core.BUCKET_L
    jug_l: Number = core.JUG_L
    price_per_l: Number | None = None
    poured_product_l: Number = 0.0
    poured_water_l: Number = 0.0

    def to_core(self) -> core.BatchQuestion:
        """The question as the core takes it; raises CoreError."""
        containers = []
        for i, row in enumerate(self.containers):
            with under(f"containers.{i}"):
                containers.append(core.Container(row.size_l, row.at_hand, row.sold))
        more = self.model_dump(exclude={"containers"})
        return core.BatchQuestion(containers=tuple(containers), **more)


BatchOut = answer_of("BatchOut", core.BatchAnswer)


class WholeCansIn(Body):
    """What do whole cans do to a mix, instead of a little out of one more?"""

    mix: MixIn
    containers: Annotated[list[ContainerIn], Field(max_length=100)]

    def to_core(self) -> core.WholeCansQuestion:
        """The question as the core takes it; raises CoreError."""
        with under("mix"):
            plan = self.mix.to_core()
        containers = []
        for i, row in enumerate(self.containers):
            with under(f"containers.{i}"):
                containers.append(core.Container(row.size_l, row.at_hand, row.sold))
        return core.WholeCansQuestion(plan, tuple(containers))


WholeCansOut = answer_of("WholeCansOut", core.WholeCansAnswer)


class TopUpIn(Body):
    """What does a top-up make of the loop? volume_l stood in it before; added_percent 0: water."""

    glycol: GlycolName
    volume_l: Number
    strength_percent: Number
    added_l: Number
    added_percent: Number = 0.0
    sd_volume_l: Number = 0.0
    sd_strength_percent: Number = 0.0

    def to_core(self) -> core.TopUpQuestion:
        """The question as the core takes it; raises CoreError."""
        return core.TopUpQuestion(
            glycol=Glycol(self.glycol),
            volume_l=self.volume_l,
            strength_percent=VolumePercent(self.strength_percent),
            added_l=self.added_l,
            added_percent=VolumePercent(self.added_percent),
            sd_volume_l=self.sd_volume_l,
            sd_strength_percent=self.sd_strength_percent,
        )


TopUpOut = answer_of("TopUpOut", core.TopUpAnswer)
