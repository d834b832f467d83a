"""Rules that are policy, not physics: one table with reasons and origin. A depot may override any of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between

PRACTICE = "common practice, no source"
D3306 = "ASTM D3306 annex, from memory"
MEMORY = "from memory, no source at hand"
OWN = "Temper's default"


class Group(StrEnum):
    """What a rule is about; the page keeps this order."""

    TARGET = "target"
    CHEMISTRY = "chemistry"
    INSPECT = "inspect"
    PROOF = "proof"
    LIFE = "life"
    SEASON = "season"
    WATER = "water"
    COST = "cost"
    OPEN = "open"
    FLUSH = "flush"
    FILL = "fill"
    SPREAD = "spread"


GROUP_NAMES = {
    Group.TARGET: "target and mix",
    Group.CHEMISTRY: "chemistry",
    Group.INSPECT: "inspect",
    Group.PROOF: "reading and verdict",
    Group.LIFE: "age and checks due",
    Group.SEASON: "frost",
    Group.WATER: "mixing water",
    Group.COST: "what a change costs",
    Group.OPEN: "opening and cooling",
    Group.FLUSH: "flushing and cleaning",
    Group.FILL: "filling and bleeding",
    Group.SPREAD: "how sure",
}
GROUP_MEANS = {
    Group.TARGET: "how cold is cold enough, and what is in stock",
    Group.CHEMISTRY: "how much old coolant may stay",
    Group.INSPECT: "what counts as a finding",
    Group.PROOF: "when a reading counts",
    Group.LIFE: "when to check again; the maker’s interval comes first",
    Group.SEASON: "when frost comes here, and how far ahead to plan",
    Group.WATER: "which water may stay in a loop",
    Group.COST: "time, estimated before anything is opened",
    Group.OPEN: "when it may be opened, and how long cooling takes",
    Group.FLUSH: "how it is rinsed, how long a cleaner may stay",
    Group.FILL: "vacuum, top-ups, when the thermostat opens",
    Group.SPREAD: "standard deviations used for intervals",
}


@dataclass(frozen=True, slots=True)
class Rule:
    """One rule: what it is, its unit, what it may be set to, why it is so and where it comes from."""

    group: Group
    key: str
    name: str
    value: float
    unit: str
    low: float
    high: float
    reason: str
    origin: str

    @property
    def shown_unit(self) -> str:
        """The unit as people say it: differences of temperature are in °C."""
        return "°C" if self.unit == "K" else self.unit

    def check(self, value: float) -> None:
        """Refuse a value this rule cannot have; raises OutOfRange."""
        todo = f"Shipped: {self.value:g} {self.shown_unit}."
        check_between("value", value, self.low, self.high, self.unit, todo)


# fmt: off
SHIPPED: tuple[Rule, ...] = (
    Rule(Group.TARGET, "margin_k", "Margin below the coldest expected", 5.0, "K", 0, 30,
         "kept below the coldest expected temperature", PRACTICE),
    Rule(Group.TARGET, "corrosion_minimum_percent", "Least strength for corrosion protection", 40.0, "% by volume", 0, 70,
         "inhibitors are dosed for it, even in the tropics", PRACTICE),
    Rule(Group.TARGET, "thumb_percent", "Rule of thumb shown beside the plan", 60.0, "% by volume", 10, 100,
         "what many fill with after flushing, to make up for water inside", PRACTICE),
    Rule(Group.TARGET, "bay_c", "Cold, for the rise", 10.0, "°C", -30, 40,
         "a loop is filled and its level read at about this", PRACTICE),
    Rule(Group.TARGET, "hot_c", "Hot, for the rise and the boiling margin", 95.0, "°C", 50, 125,
         "as hot as an engine loop usually runs", PRACTICE),
    Rule(Group.TARGET, "bucket_l", "Mixing bucket holds", 25.0, "L", 1, 1000,
         "the bucket for mixing", PRACTICE),
    Rule(Group.TARGET, "jug_l", "Measuring jug holds", 5.0, "L", 0.1, 50,
         "the measuring jug", PRACTICE),
    Rule(Group.CHEMISTRY, "old_limit_change_percent", "Old coolant left, new chemistry", 5.0, "% of the full loop", 0, 50,
         "old coolant tolerated at a change of chemistry", PRACTICE),
    Rule(Group.CHEMISTRY, "old_limit_family_percent", "Old coolant left, same family", 10.0, "% of the full loop", 0, 100,
         "old coolant tolerated within one family", PRACTICE),
    Rule(Group.INSPECT, "sediment_mm", "Sediment that counts as dirt", 3.0, "mm", 0.5, 50,
         "in a jar that has settled", OWN),
    Rule(Group.INSPECT, "radiator_spread_k", "Radiator sides closer than this are suspicious", 5.5, "K", 0.5, 30,
         "a single-digit difference in °F: restriction or coating, or another cause", PRACTICE),
    Rule(Group.INSPECT, "pressure_drop_kpa", "Pressure hold: drop that is no leak", 2.0, "kPa", 0, 30,
         "a smaller drop is gauge error", OWN),
    Rule(Group.INSPECT, "pressure_hold_min", "Pressure hold, at least", 5.0, "minutes", 1, 60,
         "shorter holds hide slow leaks", OWN),
    Rule(Group.INSPECT, "strip_ph_low", "pH below this: inhibitor spent", 7.5, "pH", 5, 9,
         "inhibitors are buffered above it", MEMORY),
    Rule(Group.INSPECT, "strip_ph_high", "pH above this: something alkaline got in", 11.0, "pH", 9, 13,
         "cleaner left inside, or an overdose", MEMORY),
    Rule(Group.INSPECT, "nitrite_low_mg_l", "Nitrite below this: dose", 800.0, "mg/l", 0, 5000,
         "wet liners pit below it", MEMORY),
    Rule(Group.INSPECT, "nitrite_high_mg_l", "Nitrite above this: overdosed", 3200.0, "mg/l", 500, 10000,
         "too much attacks solder and drops out", MEMORY),
    Rule(Group.INSPECT, "molybdate_low_mg_l", "Molybdate below this: dose", 200.0, "mg/l", 0, 5000,
         "where molybdate protects the liners instead of nitrite", MEMORY),
    Rule(Group.INSPECT, "molybdate_high_mg_l", "Molybdate above this: overdosed", 1000.0, "mg/l", 100, 10000,
         "the additive's own label first", OWN),
    Rule(Group.INSPECT, "conductivity_power_us_cm", "Power electronics and battery conduct at most", 100.0, "uS/cm at 25 °C",
         0.1, 5000, "in service; the maker's limit first", MEMORY),
    Rule(Group.INSPECT, "conductivity_fuel_cell_us_cm", "Fuel cells conduct at most", 5.0, "uS/cm at 25 °C", 0.1, 1000,
         "in service; the maker's limit first", MEMORY),
    Rule(Group.INSPECT, "conductivity_per_k_percent", "Conductivity rises by", 2.0, "% per °C", 0, 5,
         "if the meter does not convert to 25 °C itself", MEMORY),
    Rule(Group.INSPECT, "rust_back_days", "Rust seen again within", 60.0, "days", 1, 730,
         "after a clean: it came back at once, so there is a cause", OWN),
    Rule(Group.INSPECT, "leak_slope_percent_month", "Strength lost that means a leak, at least", 0.5, "% by volume a month",
         0.05, 10, "slower than this is instrument error", OWN),
    Rule(Group.INSPECT, "detection_sds", "A rinse reads something above", 3.0, "standard deviations", 1, 6,
         "closer to water than this, a reading is only a limit", PRACTICE),
    Rule(Group.PROOF, "proof_tolerance_k", "Distance from the target that still verifies it", 1.0, "K", 0.01, 10,
         "how far a reading may be from the target and still verify it", OWN),
    Rule(Group.PROOF, "agreement_sds", "Reading and litres disagree beyond", 2.5, "standard deviations", 1, 5,
         "nearer than this they may differ by chance", OWN),
    Rule(Group.PROOF, "compensation_low_c", "Compensated from", 10.0, "°C", -5, 19,
         "below it a compensated refractometer is not compensated", PRACTICE),
    Rule(Group.PROOF, "compensation_high_c", "Compensated up to", 30.0, "°C", 20, 60,
         "above it a compensated refractometer is not compensated", PRACTICE),
    Rule(Group.PROOF, "zero_tolerance_k", "Zero that is still good", 1.0, "K", 0.1, 5,
         "a zero further off needs cleaning and setting the instrument", OWN),
    Rule(Group.PROOF, "zero_due_days", "Zero checked at least every", 7.0, "days", 0.5, 366,
         "and before every verified reading, with water at the sample's temperature", OWN),
    Rule(Group.PROOF, "repeat_range_divisions", "Repeats may lie apart by", 2.0, "divisions", 0.5, 10,
         "more than the instrument's own: one more reading", OWN),
    Rule(Group.PROOF, "repeat_outlier_divisions", "A repeat is named beyond", 3.0, "divisions", 1, 20,
         "from the middle of the others, where those agree", OWN),
    Rule(Group.PROOF, "instruments_agree_percent", "Two instruments agree within", 1.0, "% by mass", 0.1, 10,
         "a bias above it, and above chance, is one of them", OWN),
    Rule(Group.PROOF, "same_sample_minutes", "Readings are of one sample within", 30.0, "min", 1, 720,
         "of the same loop and place; two instruments are compared on them", OWN),
    Rule(Group.LIFE, "life_iat_months", "Silicate type lasts", 24.0, "months", 1, 240,
         "silicate drops out and is used up", PRACTICE),
    Rule(Group.LIFE, "life_iat_km", "Silicate type lasts", 50_000.0, "km", 1000, 2_000_000,
         "same, by distance", PRACTICE),
    Rule(Group.LIFE, "life_oat_months", "Organic acid lasts", 60.0, "months", 1, 240,
         "contested: 7 years, 5, 4 to 5 at most, 2 by old books", PRACTICE),
    Rule(Group.LIFE, "life_oat_km", "Organic acid lasts", 250_000.0, "km", 1000, 2_000_000,
         "contested: 160,000 km is quoted as well", PRACTICE),
    Rule(Group.LIFE, "life_si_hoat_months", "Organic with silicate lasts", 60.0, "months", 1, 240,
         "contested like every long life", PRACTICE),
    Rule(Group.LIFE, "life_p_hoat_months", "Organic with phosphate lasts", 60.0, "months", 1, 240,
         "contested like every long life", PRACTICE),
    Rule(Group.LIFE, "life_noat_hours", "Heavy duty lasts", 6000.0, "h", 100, 50_000,
         "by hours and strips; the maker's figure first", MEMORY),
    Rule(Group.LIFE, "life_noat_months", "Heavy duty lasts", 36.0, "months", 1, 240,
         "standing machines age too", MEMORY),
    Rule(Group.LIFE, "life_glycol_free_months", "Glycol-free lasts", 12.0, "months", 1, 60,
         "a season", PRACTICE),
    Rule(Group.LIFE, "life_low_conductivity_months", "Low-conductivity lasts", 36.0, "months", 1, 240,
         "the maker's figure first", MEMORY),
    Rule(Group.LIFE, "due_soon_days", "Due soon, ahead of the date", 45.0, "days", 1, 365,
         "time to order and to plan the bay", OWN),
    Rule(Group.LIFE, "recheck_first_days", "First level check after", 1.0, "days", 0, 14,
         "cold level after the first drive or next morning", PRACTICE),
    Rule(Group.LIFE, "recheck_second_days", "Second level check after", 4.0, "days", 1, 30,
         "3 to 4 days, with a second reading", PRACTICE),
    Rule(Group.LIFE, "recheck_diluted_days", "Check again after a top-up within", 7.0, "days", 1, 60,
         "lost coolant leaks somewhere", OWN),
    Rule(Group.LIFE, "settle_days", "A fill settles for", 7.0, "days", 0, 60,
         "air comes out over the first heat cycles; topping up then is no loss", PRACTICE),
    Rule(Group.LIFE, "level_look_sd_l", "A look at the mark is right within", 0.1, "L", 0.01, 5,
         "standard deviation: 2 mm in a tank of 0.05 L per mm; where the tank was not measured", OWN),
    Rule(Group.LIFE, "level_look_sd_mm", "A look at a measured tank is right within", 2.0, "mm", 0.1, 20,
         "standard deviation; counts where the loop knows its tank's litres per mm", OWN),
    Rule(Group.LIFE, "loss_shape_sds", "Another course of a loss is certain beyond", 4.0, "standard deviations", 2, 8,
         "at once, from a day on, until a day: many days are tried, so more than chance is asked", OWN),
    Rule(Group.LIFE, "evaporation_week_percent", "An open system evaporates up to", 1.0, "% of the loop a week", 0, 20,
         "more than this is a leak; from memory", OWN),
    Rule(Group.LIFE, "loss_sds", "A loss is certain beyond", 3.0, "standard deviations", 1, 6,
         "weekly looks at a sound loop raise at most one false alarm in fifty years of them", OWN),
    Rule(Group.LIFE, "loss_week_l", "A loss means a leak from", 0.04, "L a week", 0.001, 10,
         "slower than this is what looks at a mark leave open", OWN),
    Rule(Group.LIFE, "recheck_leak_days", "Where a leak is suspected, look again within", 7.0, "days", 1, 60,
         "weekly, until it is found", OWN),
    Rule(Group.SEASON, "frost_from_week", "Frost may come from", 40.0, "week of the year", 1, 53,
         "the first night that may freeze at the depot", OWN),
    Rule(Group.SEASON, "frost_until_week", "Frost may come until", 20.0, "week of the year", 1, 53,
         "the last night that may freeze at the depot", OWN),
    Rule(Group.SEASON, "frost_ahead_weeks", "Plan for it ahead by", 6.0, "weeks", 0, 26,
         "time to drain or change what is not protected", OWN),
    Rule(Group.SEASON, "bay_low_c", "Coldest night in the bay", 8.0, "°C", -40, 30,
         "a heated bay; lower it where heating is off at night", OWN),
    Rule(Group.SEASON, "hall_low_c", "Coldest night indoors", 2.0, "°C", -40, 30,
         "a closed hall without heating; lower it where it freezes in there", OWN),
    Rule(Group.WATER, "water_chloride_mg_l", "Chloride, at most", 40.0, "mg/l", 0, 1000, "pits aluminium", D3306),
    Rule(Group.WATER, "water_sulphate_mg_l", "Sulphate, at most", 100.0, "mg/l", 0, 2000, "scale and corrosion", D3306),
    Rule(Group.WATER, "water_hardness_mg_l", "Hardness as CaCO3, at most", 170.0, "mg/l", 0, 2000,
         "scale, and inhibitor drops out", D3306),
    Rule(Group.WATER, "water_solids_mg_l", "Total solids, at most", 340.0, "mg/l", 0, 5000,
         "what is left when it dries", D3306),
    Rule(Group.WATER, "water_ph_low", "pH, at least", 5.5, "pH", 3, 7, "acid water uses inhibitor up", D3306),
    Rule(Group.WATER, "water_ph_high", "pH, at most", 9.0, "pH", 7, 12, "alkaline water attacks aluminium", D3306),
    Rule(Group.COST, "hands_drain_min", "Work for a drain", 20.0, "minutes", 1, 240, "open, drain, shut, carry", OWN),
    Rule(Group.COST, "hands_round_min", "Work for one rinse", 15.0, "minutes", 1, 240, "fill, start, drain", OWN),
    Rule(Group.COST, "hands_fill_min", "Work to mix, fill and bleed", 40.0, "minutes", 1, 480,
         "and the reading", OWN),
    Rule(Group.COST, "hands_level_min", "Work for a level check", 6.0, "minutes", 1, 120, "walk there, look, record", OWN),
    Rule(Group.COST, "hands_reading_min", "Work for a reading or a zero check", 10.0, "minutes", 1, 120,
         "sample, wipe, read three times", OWN),
    Rule(Group.COST, "warm_up_min", "Run until the thermostat opens", 25.0, "minutes", 3, 240,
         "a 3-minute run never opens it", PRACTICE),
    Rule(Group.COST, "hands_parts_min", "Work to rinse one vessel alone", 20.0, "minutes", 1, 240,
         "hoses off, water through both ways, hoses on", OWN),
    Rule(Group.COST, "wait_counts_percent", "A minute of waiting counts as", 10.0, "% of a minute of work", 0, 100,
         "other jobs are done meanwhile", OWN),
    Rule(Group.COST, "most_rounds", "Most rinses worth running", 12.0, "rinses", 1, 30,
         "beyond this the cost says so", OWN),
    Rule(Group.OPEN, "gate_hold_s", "Cap and lower hose held in the bare hand", 5.0, "s", 3, 30,
         "one of two signs; elapsed time is not enough", PRACTICE),
    Rule(Group.OPEN, "gate_probe_c", "Or colder than, by probe or on matt rubber", 45.0, "°C", 20, 50,
         "never on bare metal, which reads far too low", PRACTICE),
    Rule(Group.OPEN, "gate_gauge_kpa", "What a gauge at zero may show", 1.0, "kPa", 0, 5,
         "the needle's own error; more is pressure", OWN),
    Rule(Group.OPEN, "gate_between_min", "Safe-to-open check between services holds for at most", 60.0, "minutes", 5, 240,
         "engine runs are not recorded without a job", OWN),
    Rule(Group.OPEN, "kit_judges_h", "Tablet without contact gives no verdict after", 72.0, "hours", 1, 720,
         "rules, instruments and other people's entries may have changed meanwhile", OWN),
    Rule(Group.OPEN, "cool_small_min", "Cooling time constant under 10 L", 60.0, "minutes", 10, 600,
         "an estimate for planning only", PRACTICE),
    Rule(Group.OPEN, "cool_medium_min", "Cooling time constant, 10 to 25 L", 120.0, "minutes", 10, 600, "same", PRACTICE),
    Rule(Group.OPEN, "cool_large_min", "Cooling time constant over 25 L", 180.0, "minutes", 10, 900, "same", PRACTICE),
    Rule(Group.OPEN, "cool_factor", "Either way by a factor of", 1.6, "times", 1.05, 4, "wind, hood, size", PRACTICE),
    Rule(Group.OPEN, "heat_soak_min", "Temperatures ignored after stopping", 10.0, "minutes", 0, 60,
         "heat soak: it first gets hotter", PRACTICE),
    Rule(Group.FLUSH, "tap_solids_mg_l", "Residue of unanalysed tap water", 500.0, "mg/l", 0, 5000,
         "counted as hard until analysed", OWN),
    Rule(Group.FLUSH, "tap_residue_part", "Tap residue the loop may hold", 20.0, "% of the limit for solids", 0, 100,
         "the mix brings its own; the last round is demineralised", OWN),
    Rule(Group.FLUSH, "blow_out_percent", "Of what stays inside, air pushes out", 40.0, "%", 5, 95,
         "unsealed air through the lower hose; it differs from loop to loop", OWN),
    Rule(Group.FLUSH, "sweep_l_per_min", "A hose gives", 8.0, "L a minute", 1, 60,
         "an open hose at the heater connection", OWN),
    Rule(Group.FLUSH, "cleaner_rinse_percent", "Cleaner that may stay, if the label says nothing", 1.0, "%", 0.05, 20,
         "of its working strength, after refill", OWN),
    Rule(Group.FLUSH, "waste_container_l", "Waste container holds", 20.0, "L", 1, 1000,
         "filled so that it can be carried and lidded", OWN),
    Rule(Group.FLUSH, "mix_water_part", "Water's residue in the full loop, at most", 60.0, "% of the water's limit", 1, 100,
         "a mix is about half water; of the limit for mixing water", OWN),
    Rule(Group.FLUSH, "waste_days", "Full waste containers stand at most", 90.0, "days", 1, 730,
         "then they are to be handed over; local rules come first", OWN),
    Rule(Group.FLUSH, "air_bar", "Compressed air through an open loop, at most", 0.5, "bar", 0.05, 1.5,
         "unsealed and regulated", PRACTICE),
    Rule(Group.FLUSH, "hose_flow_low_min", "Hose flow, at least", 2.0, "minutes", 0.5, 30, "until clear", PRACTICE),
    Rule(Group.FLUSH, "hose_flow_high_min", "Hose flow, about at most", 15.0, "minutes", 2, 120, "until clear", PRACTICE),
    Rule(Group.FLUSH, "cleaner_light_min", "Cleaner, light run", 10.0, "minutes", 1, 120,
         "the label's figure first", PRACTICE),
    Rule(Group.FLUSH, "cleaner_heavy_min", "Cleaner, heavy run", 180.0, "minutes", 10, 720,
         "3 to 6 h are quoted; the label's limit rules", PRACTICE),
    Rule(Group.FLUSH, "cleaner_limit_min", "Cleaner inside at most, if the label says nothing", 240.0, "minutes", 10, 720,
         "some attack seals after 4 h; never overnight", PRACTICE),
    Rule(Group.FILL, "vacuum_low_kpa", "Vacuum to pull, at least", 81.0, "kPa below ambient", 30, 100,
         "24 to 26 inHg at sea level; less is reachable at altitude", PRACTICE),
    Rule(Group.FILL, "vacuum_high_kpa", "Vacuum to pull, at most", 88.0, "kPa below ambient", 30, 100, "same", PRACTICE),
    Rule(Group.FILL, "vacuum_hold_min", "Vacuum held for", 10.0, "minutes", 2, 60,
         "5 to 10 minutes; a moving needle leaks", PRACTICE),
    Rule(Group.FILL, "vacuum_drop_kpa", "Vacuum lost that is no leak", 2.0, "kPa", 0, 20, "in that time", OWN),
    Rule(Group.FILL, "top_up_settled_l", "Top-up that says the air is out, at most", 0.1, "L", 0.01, 5,
         "1.2, 0.4, 0.1 L converges", PRACTICE),
    Rule(Group.FILL, "top_up_settled_percent", "Or, of a large loop, at most", 0.3, "% of the capacity", 0, 5,
         "a litre mark on a large jug", OWN),
    Rule(Group.FILL, "top_up_shrinks_percent", "Top-ups converge at", 60.0, "% of the one before", 5, 95,
         "at most this much of the one before", OWN),
    Rule(Group.FILL, "top_up_stalls_percent", "Something is wrong beyond", 85.0, "% of the one before", 10, 200,
         "0.8, then 0.9 L does not converge: stop and look", PRACTICE),
    Rule(Group.FILL, "old_hoses_years", "Hoses are old under vacuum after", 10.0, "years", 1, 60,
         "old hoses may stay collapsed", OWN),
    Rule(Group.FILL, "pump_floor_kpa", "Lowest pressure a bay pump reaches", 15.0, "kPa absolute", 1, 60,
         "wear, hoses", OWN),
    Rule(Group.FILL, "thermostat_opens_c", "Thermostat opens at, if unknown", 82.0, "°C", 60, 110,
         "about 70 to 90 °C", PRACTICE),
    Rule(Group.SPREAD, "capacity_sd_measured", "Capacity, measured", 1.0, "% of the capacity", 0.1, 30,
         "filled from empty by weight or marked jugs", OWN),
    Rule(Group.SPREAD, "capacity_sd_manual", "Capacity, from the manual", 3.0, "% of the capacity", 0.1, 30,
         "manual figures differ between equipment levels", OWN),
    Rule(Group.SPREAD, "capacity_sd_remembered", "Capacity, remembered", 10.0, "% of the capacity", 0.1, 50,
         "somebody's memory", OWN),
    Rule(Group.SPREAD, "capacity_sd_learned", "Capacity, learned", 1.5, "% of the capacity", 0.1, 30,
         "from readings; the spread learned with it comes first", OWN),
    Rule(Group.SPREAD, "capacity_sd_kind", "Capacity, usual for its kind", 20.0, "% of the capacity", 1, 50,
         "where it is not known; the range of the kind comes first", PRACTICE),
    Rule(Group.SPREAD, "drained_sd_weighed", "Litres out, weighed", 0.7, "% of the litres", 0.1, 30,
         "a bay scale, and what clings to the tray", OWN),
    Rule(Group.SPREAD, "drained_sd_marks", "Litres out, by marks", 2.0, "% of the litres", 0.1, 30,
         "marks on a jug or canister", OWN),
    Rule(Group.SPREAD, "drained_sd_guessed", "Litres out, guessed", 12.0, "% of the litres", 0.1, 50,
         "by eye", OWN),
    Rule(Group.SPREAD, "poured_sd", "Litres in", 1.0, "% of the litres", 0.1, 30,
         "jug marks and what stays in the can", OWN),
    Rule(Group.SPREAD, "inside_sd_read", "Strength as found, read", 1.5, "% by volume", 0.1, 30,
         "read with a refractometer", OWN),
    Rule(Group.SPREAD, "inside_sd_unread", "Strength as found, never read", 15.0, "% by volume", 0.1, 50,
         "believed, never read", OWN),
    Rule(Group.SPREAD, "product_sd", "Glycol in the product", 0.5, "% by mass", 0, 10,
         "glycol content on a data sheet", OWN),
    Rule(Group.SPREAD, "level_sd_seen", "Level at arrival, looked at", 0.3, "% of the capacity", 0, 10,
         "how closely a mark can be read", OWN),
    Rule(Group.SPREAD, "level_sd_unseen", "Level at arrival, nobody looked", 1.0, "% of the capacity", 0, 20,
         "a little low or over", OWN),
    Rule(Group.SPREAD, "level_sd_low", "Level at arrival, low by an unknown amount", 3.0, "% of the capacity", 0, 30,
         "low, and nobody said how much", OWN),
    Rule(Group.SPREAD, "missing_sd_percent", "Missing at arrival, as entered", 20.0, "% of the litres", 0, 100,
         "litres by a mark or by mm", OWN),
    Rule(Group.SPREAD, "accuracy_divisions", "Instrument off along its scale", 0.5, "divisions", 0, 5,
         "zeroed, but not equally right everywhere; one standard deviation", OWN),
    Rule(Group.SPREAD, "zero_unchecked_k", "Zero never checked", 0.5, "K", 0, 5,
         "how far a zero is off if nobody looked; one standard deviation", OWN),
    Rule(Group.SPREAD, "shared_error_percent", "Of an error in litres, shared by all", 64.0, "% of the variance", 0, 100,
         "a scale or a jug is off the same way each time", OWN),
    Rule(Group.SPREAD, "exchange_sd_percent", "Rinse water that gets everywhere", 25.0, "% of the water", 0, 100,
         "a vessel is not stirred while it is rinsed", OWN),
    Rule(Group.SPREAD, "tilt_sd_percent", "Which vessel the litres came from", 10.0, "% of its litres", 0, 100,
         "where nobody caught them one by one", OWN),
)
# fmt: on
RULES: dict[str, Rule] = {rule.key: rule for rule in SHIPPED}


@dataclass(frozen=True, slots=True)
class Policy:
    """The shipped rules with a depot's own values laid over them."""

    overrides: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        unknown = set(self.overrides) - set(RULES)
        if unknown:
            raise CoreError("policy", f"There is no rule called {', '.join(sorted(unknown))}.", "unknown_rule")

    def __hash__(self) -> int:
        return hash(frozenset(self.overrides.items()))

    def __getitem__(self, key: str) -> float:
        if key in self.overrides:
            return self.overrides[key]
        return RULES[key].value
