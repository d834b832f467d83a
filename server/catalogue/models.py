"""What goes into loops: coolants, agents (cleaners and additives), water."""

from __future__ import annotations

from uuid import uuid4

from django.db import models

from temper_core.basis.quantity import MassFraction
from temper_core.products.agents import Agent as CoreAgent
from temper_core.products.agents import AgentKind
from temper_core.products.chemistry import Base, Family, Form
from temper_core.products.chemistry import Product as CoreProduct
from temper_core.products.label import usual_glycol
from temper_core.products.water import Analysis, WaterKind
from temper_core.science import strength_of


class Kept(models.Model):
    """What every line of the catalogue has. uuid: the client's, so that sent twice it is added once."""

    name = models.CharField(max_length=60)
    uuid = models.UUIDField(default=uuid4, unique=True, editable=False, help_text="what it is known by outside the database")
    minimum_l = models.FloatField(null=True, blank=True, help_text="a lead's: order below this much on the shelf [l]")
    edited_at = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class Product(Kept):
    """A coolant: composition, how it is sold, what a litre costs in the depot's currency."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="products")
    base = models.CharField(max_length=12, choices=[(b.value, b.value) for b in Base])
    family = models.CharField(max_length=20, choices=[(f.value, f.value) for f in Family])
    form = models.CharField(max_length=12, choices=[(f.value, f.value) for f in Form])
    glycol_mass_percent = models.FloatField()
    glycol_stated = models.BooleanField(default=True, help_text="false: its label is silent, the figure is what is usual")
    label_entered = models.BooleanField(default=True, help_text="false: from the starter list, its label not entered yet")
    standards = models.JSONField(default=list, blank=True)
    container_sizes_l = models.JSONField(default=list, blank=True)
    price_per_l = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)

    class Meta(Kept.Meta):
        constraints = [models.UniqueConstraint(fields=["depot", "name"], name="product_once_per_depot")]

    def clean(self) -> None:
        """Refuse a composition that cannot be; raises CoreError."""
        _ = self.core

    @property
    def strength_percent(self) -> float | None:
        """Strength by volume of the default concentrate; None without glycol."""
        glycol = self.core.base.glycol
        return strength_of(glycol, MassFraction(self.glycol_mass_percent / 100)) if glycol else None

    @property
    def core(self) -> CoreProduct:
        """This product as the core knows it: composition only."""
        return CoreProduct(
            id=str(self.pk),
            name=self.name,
            base=Base(self.base),
            family=Family(self.family),
            form=Form(self.form),
            glycol_mass_percent=self.glycol_mass_percent,
            standards=tuple(self.standards),
            glycol_sd_percent=None if self.glycol_stated else usual_glycol(Base(self.base), Form(self.form)).sd_percent,
            label_entered=self.label_entered,
        )


class Agent(Kept):
    """A cleaner or an additive with its label's figures; price of one container in the depot's currency."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="agents")
    kind = models.CharField(max_length=10, choices=[(k.value, k.value) for k in AgentKind])
    container_ml = models.FloatField()
    treats_l = models.FloatField(help_text="litres of loop that one container treats")
    light_min = models.FloatField(null=True, blank=True)
    heavy_min = models.FloatField(null=True, blank=True)
    limit_min = models.FloatField(null=True, blank=True, help_text="longest it may stay in by its label")
    rinse_below_percent = models.FloatField(null=True, blank=True)
    nitrite_mg_l = models.FloatField(null=True, blank=True, help_text="what one label dose raises nitrite by")
    molybdate_mg_l = models.FloatField(null=True, blank=True, help_text="what one label dose raises molybdate by")
    families = models.JSONField(default=list, blank=True, help_text="families of coolant that the label names")
    price = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)

    class Meta(Kept.Meta):
        constraints = [models.UniqueConstraint(fields=["depot", "name"], name="agent_once_per_depot")]

    def clean(self) -> None:
        """Refuse a label that cannot be; raises CoreError."""
        _ = self.core

    @property
    def core(self) -> CoreAgent:
        """As the core knows it."""
        return CoreAgent(
            name=self.name,
            kind=AgentKind(self.kind),
            container_ml=self.container_ml,
            treats_l=self.treats_l,
            light_min=self.light_min,
            heavy_min=self.heavy_min,
            limit_min=self.limit_min,
            rinse_below_percent=self.rinse_below_percent,
            nitrite_mg_l=self.nitrite_mg_l,
            molybdate_mg_l=self.molybdate_mg_l,
            families=tuple(Family(one) for one in self.families),
        )


class WaterSource(Kept):
    """Water for rinsing or mixing, with its analysis; price per litre in the depot's currency."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="waters")
    kind = models.CharField(max_length=14, choices=[(k.value, k.value) for k in WaterKind])
    chloride_mg_l = models.FloatField(null=True, blank=True)
    sulphate_mg_l = models.FloatField(null=True, blank=True)
    hardness_mg_l = models.FloatField(null=True, blank=True)
    solids_mg_l = models.FloatField(null=True, blank=True)
    ph = models.FloatField(null=True, blank=True)
    analysed_on = models.DateField(null=True, blank=True)
    price_per_l = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)

    class Meta(Kept.Meta):
        constraints = [models.UniqueConstraint(fields=["depot", "name"], name="water_once_per_depot")]

    def clean(self) -> None:
        """Refuse an analysis that cannot be; raises CoreError."""
        _ = self.analysis

    @property
    def analysis(self) -> Analysis:
        """As the core knows it."""
        return Analysis(self.chloride_mg_l, self.sulphate_mg_l, self.hardness_mg_l, self.solids_mg_l, self.ph)
