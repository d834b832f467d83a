"""Products that go into loops."""

from __future__ import annotations

from django.db import models

from temper_core.chemistry import Base, Family, Form
from temper_core.chemistry import Product as CoreProduct
from temper_core.glycol import strength_of
from temper_core.quantity import MassFraction


class Product(models.Model):
    """A coolant: composition, how it is sold, what a container costs in the depot's currency."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="products")
    name = models.CharField(max_length=60)
    base = models.CharField(max_length=12, choices=[(b.value, b.value) for b in Base])
    family = models.CharField(max_length=20, choices=[(f.value, f.value) for f in Family])
    form = models.CharField(max_length=12, choices=[(f.value, f.value) for f in Form])
    glycol_mass_percent = models.FloatField()
    standards = models.JSONField(default=list, blank=True)
    container_sizes_l = models.JSONField(default=list, blank=True)
    price_per_l = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["depot", "name"], name="product_once_per_depot")]

    def __str__(self) -> str:
        return self.name

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
        )
