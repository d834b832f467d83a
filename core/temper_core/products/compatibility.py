"""May this product go into this loop? A first verdict from family, base, materials and the maker's specification."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import IntEnum, StrEnum

from temper_core.basis.policy import Policy
from temper_core.products.chemistry import (
    BASE_NAMES,
    FAMILY_NAMES,
    GROUPS,
    Base,
    Family,
    Fluid,
    Form,
    Material,
    Product,
    Requirement,
)


class Verdict(StrEnum):
    """Best first."""

    FITS = "fits"
    FITS_AFTER_CHANGE_OUT = "fits_after_change_out"
    EMERGENCY_ONLY = "emergency_only"
    NO = "no"


class _Weight(IntEnum):
    """How far a reason drags the verdict down."""

    FOR = 0
    CHANGE_TYPE = 1
    EMERGENCY = 2
    AGAINST = 3


_VERDICT_OF = {
    _Weight.FOR: Verdict.FITS,
    _Weight.CHANGE_TYPE: Verdict.FITS_AFTER_CHANGE_OUT,
    _Weight.EMERGENCY: Verdict.EMERGENCY_ONLY,
    _Weight.AGAINST: Verdict.NO,
}


@dataclass(frozen=True, slots=True)
class Reason:
    """Why: a code, one sentence, and whether it speaks against the product."""

    code: str
    sentence: str
    weight: int


@dataclass(frozen=True, slots=True)
class Judged:
    """A product's verdict for one loop; `short` is the verdict in a few words; reasons with the deciding ones first.

    old_limit_percent: how much of the old coolant the finished full loop may hold.
    """

    verdict: Verdict
    short: str
    reasons: tuple[Reason, ...]
    old_limit_percent: float | None


@dataclass(frozen=True, slots=True)
class MaterialRule:
    """One family meeting one material; source: common practice, no source."""

    material: Material
    families: frozenset[Family]
    sentence: str


MATERIAL_RULES = (
    MaterialRule(
        Material.COPPER_BRASS_SOLDER,
        frozenset({Family.OAT, Family.P_HOAT}),
        "organic acids attack the solder of an old copper-brass radiator",
    ),
    MaterialRule(Material.OLD_SEALS, frozenset({Family.OAT}), "some old seals do not withstand organic acids"),
    MaterialRule(
        Material.WET_LINERS,
        frozenset({Family.IAT, Family.OAT, Family.SI_HOAT, Family.P_HOAT, Family.GLYCOL_FREE}),
        "wet liners need nitrite or molybdate against pitting",
    ),
)


def _maker_allows(product: Product, need: Requirement) -> bool | None:
    """What the maker's statement says of a product; None when there is none.

    Family and standard are both to be met where both are stated: one light-duty standard covers several families.
    """
    if not need.families and not need.standards:
        return None
    family = not need.families or product.family in need.families
    return family and (not need.standards or bool(set(product.standards) & set(need.standards)))


def _race(product: Product, need: Requirement) -> Iterable[Reason]:
    if need.glycol_forbidden and product.base is not Base.NONE:
        yield Reason("glycol_forbidden", "The series of this machine forbids glycol.", _Weight.AGAINST)
    elif need.glycol_forbidden:
        yield Reason("no_frost_protection", "Glycol-free: no frost protection. Keep indoors, or drain.", _Weight.FOR)
    elif product.base is Base.NONE:
        yield Reason("no_frost_protection", "Without glycol this loop has no frost protection.", _Weight.AGAINST)


def _conductivity(product: Product, need: Requirement) -> Iterable[Reason]:
    low = product.family is Family.LOW_CONDUCTIVITY
    if need.low_conductivity and not low:
        yield Reason("needs_low_conductivity", "This loop takes low-conductivity coolant only.", _Weight.AGAINST)
    elif need.low_conductivity and product.form is Form.CONCENTRATE:
        words = "This loop takes ready-mix only: a concentrate would need water."
        yield Reason("needs_ready_mix", words, _Weight.AGAINST)
    elif low and not need.low_conductivity:
        yield Reason("only_low_conductivity", "Made for electronics loops only; too little inhibitor here.", _Weight.AGAINST)


def _maker(product: Product, need: Requirement) -> Iterable[Reason]:
    allowed = _maker_allows(product, need)
    where = f" ({need.stated_in})" if need.stated_in else ""
    asked = " to ".join(
        part for part in (" or ".join(FAMILY_NAMES[f] for f in need.families), " or ".join(need.standards)) if part
    )
    if allowed:
        yield Reason("maker_asks", f"The maker requires {asked}{where}: it matches.", _Weight.FOR)
    elif allowed is False:
        same_group = any(GROUPS[product.family] == GROUPS[family] for family in need.families)
        weight = _Weight.EMERGENCY if same_group else _Weight.AGAINST
        meets = f"to {', '.join(product.standards)}" if product.standards else "no standard stated"
        this = f"{FAMILY_NAMES[product.family]}, {meets}"
        yield Reason("maker_asks_other", f"The maker requires {asked}{where}; this is {this}.", weight)


def _materials(product: Product, need: Requirement) -> Iterable[Reason]:
    if _maker_allows(product, need):  # the maker's statement outranks what is generally said of a material
        return
    for rule in MATERIAL_RULES:
        if rule.material in need.materials and product.family in rule.families:
            yield Reason(f"material_{rule.material}", f"{rule.sentence[0].upper()}{rule.sentence[1:]}.", _Weight.AGAINST)


def _label(product: Product, need: Requirement) -> Iterable[Reason]:
    if not product.label_entered:
        yield Reason("label_first", "Nobody has entered its label yet. Enter it in Products.", _Weight.AGAINST)


LOOP_RULES: tuple[Callable[..., Iterable[Reason]], ...] = (_label, _race, _conductivity, _maker, _materials)


def unfit(product: Product, need: Requirement) -> Reason | None:
    """Why a product may never be in this loop, whatever is inside; None where it may."""
    against = [reason for rule in LOOP_RULES for reason in rule(product, need) if reason.weight == _Weight.AGAINST]
    return against[0] if against else None


def _on_top_of(product: Product, inside: Fluid) -> Reason:
    """Topped up, the old stays in: what cannot stay beside it is refused."""
    if inside.base is None or inside.family is None:
        return Reason("inside_unknown", "Unknown coolant inside: nothing may be topped up.", _Weight.AGAINST)
    if inside.base is not product.base:
        said = f"Inside is {BASE_NAMES[inside.base]}, this is {BASE_NAMES[product.base]}: bases are never mixed."
        return Reason("other_base", said, _Weight.AGAINST)
    if inside.family is product.family:
        return Reason("same_chemistry", "Same base and family as what is inside.", _Weight.FOR)
    names = f"Inside is {FAMILY_NAMES[inside.family]}, this is {FAMILY_NAMES[product.family]}"
    if GROUPS[inside.family] == GROUPS[product.family]:
        return Reason(
            "same_group", f"{names}: possible, but it lasts only as long as the shorter-lived one.", _Weight.EMERGENCY
        )
    return Reason("other_family", f"{names}: they do not mix.", _Weight.AGAINST)


def _against_inside(product: Product, inside: Fluid, policy: Policy) -> tuple[Reason, float | None]:
    change, family = policy["old_limit_change_percent"], policy["old_limit_family_percent"]
    if inside.base is None or inside.family is None:
        said = "Unknown coolant inside: treated as the worst case, the old coolant must come out"
        return Reason("inside_unknown", f"{said} to under {change:g} %.", _Weight.CHANGE_TYPE), change
    if inside.base is not product.base:
        said = f"Inside is {BASE_NAMES[inside.base]}, this is {BASE_NAMES[product.base]}: bases are never mixed"
        return Reason("other_base", f"{said}. Under {change:g} % old coolant may stay.", _Weight.CHANGE_TYPE), change
    if inside.family is product.family:
        return Reason("same_chemistry", "Same base and family as what is inside.", _Weight.FOR), None
    limit = family if GROUPS[inside.family] == GROUPS[product.family] else change
    said = f"Inside is {FAMILY_NAMES[inside.family]}, this is {FAMILY_NAMES[product.family]}"
    return Reason("other_family", f"{said}: under {limit:g} % old coolant may stay.", _Weight.CHANGE_TYPE), limit


def old_limit_percent(product: Product, inside: Fluid, policy: Policy) -> float | None:
    """How much of the old coolant a full loop of this product may hold [%]; None where nothing has to come out."""
    return _against_inside(product, inside, policy)[1]


def judge_product(
    product: Product, need: Requirement, inside: Fluid, policy: Policy | None = None, *, topping_up: bool = False
) -> Judged:
    """Verdict for one product in one loop that now holds `inside`; never raises. topping_up: nothing is drained before.

    The maker's stated specification outranks the material rules; what is inside decides whether the old comes out first.
    """
    policy = policy or Policy()
    reasons = [reason for rule in LOOP_RULES for reason in rule(product, need)]
    limit = None
    if topping_up:
        inside_reason = _on_top_of(product, inside)
    else:
        inside_reason, limit = _against_inside(product, inside, policy)
    reasons.append(inside_reason)
    worst = _Weight(max(reason.weight for reason in reasons))
    reasons.sort(key=lambda reason: -reason.weight)
    verdict = _VERDICT_OF[worst]
    return Judged(verdict, _short(verdict, reasons[0]), tuple(reasons), limit)


_SHORT = {
    "label_first": "enter its label first",
    "glycol_forbidden": "no, rules forbid glycol",
    "no_frost_protection": "no, freezes like water",
    "needs_low_conductivity": "no, conductivity too high",
    "needs_ready_mix": "no, ready-mix only",
    "only_low_conductivity": "no, electronics only",
    "maker_asks_other": "no, maker requires another",
    "material_copper_brass_solder": "no, attacks the solder",
    "material_old_seals": "no, attacks old seals",
    "material_wet_liners": "no, wet liners unprotected",
    "other_base": "no, other base inside",
    "other_family": "no, other family inside",
    "inside_unknown": "no, unknown coolant inside",
}


def _short(verdict: Verdict, deciding: Reason) -> str:
    if verdict is Verdict.FITS:
        return "fits"
    if verdict is Verdict.FITS_AFTER_CHANGE_OUT:
        return "suitable after changing type"
    if verdict is Verdict.EMERGENCY_ONLY:
        return "emergency only"
    return _SHORT.get(deciding.code, "no")


ORDER = {verdict: place for place, verdict in enumerate(Verdict)}
