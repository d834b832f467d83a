/** Made by `python -m tools.names` from the core, which GET /api/names serves as well. Not written by hand. */
export const NAMES = {
  "family": {
    "iat": "Silicate type",
    "oat": "Organic acid",
    "si_hoat": "Organic with silicate",
    "p_hoat": "Organic with phosphate",
    "noat": "Fully formulated heavy duty",
    "glycol_free": "Glycol-free",
    "low_conductivity": "Low-conductivity"
  },
  "base": {
    "ethylene": "ethylene glycol",
    "propylene": "propylene glycol",
    "none": "no glycol"
  },
  "form": {
    "concentrate": "concentrate",
    "ready_mix": "ready-mixed"
  },
  "stage": {
    "identify": "Identify",
    "inspect": "Inspect",
    "open": "Open",
    "drain": "Drain",
    "flush": "Flush",
    "mix": "Mix",
    "fill": "Fill",
    "verify": "Verify"
  },
  "job_type": {
    "check": "Check",
    "dose": "Dose additive",
    "top_up": "Top up",
    "adjust_strength": "Adjust strength",
    "refill": "Refill, same type",
    "change_type": "Change type",
    "clean": "Clean"
  },
  "glossary": {
    "after refill": "When the loop is full again and mixed.",
    "as found": "As it was when the machine came, before anything was done.",
    "base": "What the coolant is made of besides water: ethylene glycol, propylene glycol, or no glycol at all.",
    "bleeding": "Letting out the air that is left after filling.",
    "bypass": "The way around the radiator that the coolant takes while the thermostat is shut.",
    "capacity": "Litres in the whole loop when it is cold and filled to the cold mark.",
    "coldest here": "The coldest air expected where the machine stands.",
    "cold mark": "The mark on the tank up to which the loop is filled when it is cold.",
    "combustion gas": "Exhaust gas in the coolant: a sign of a leaking head gasket.",
    "concentrate": "Coolant without water: it is mixed before or while it is poured.",
    "conductivity": "How well the coolant conducts electricity; it must stay low around electronics.",
    "corrected": "As it reads once the zero error and the sample's temperature are taken off.",
    "demineralised water": "Water without minerals: no scale, no salts.",
    "drain point": "Where the loop is opened to let coolant out; named by a letter.",
    "freezes at": "The temperature at which ice begins to form in the coolant.",
    "glycol": "What keeps the water from freezing; poisonous.",
    "inhibitor": "What protects metal in the coolant against rust and scale; it is used up with age.",
    "interval": "The range in which the true value lies 95 times in a hundred.",
    "likely": "The true value lies in this range 95 times in a hundred.",
    "old coolant left": "How much of the finished filling is still the coolant from before.",
    "organic acid": "Inhibitors that act slowly and last for years.",
    "predicted": "Calculated from litres; not read with an instrument yet.",
    "protects to": "How cold it may get: the warm end of the interval, so that doubt counts against it.",
    "ready-mix": "Coolant that is mixed with water already and poured as it is.",
    "reported": "Somebody said so or it is written somewhere; nobody measured it here.",
    "rinse water": "Water that went through the loop to wash out old coolant; it has no frost protection.",
    "round": "One filling with water, run hot and drained again.",
    "safe-to-open check": "Made by the person who opens the loop: cold to the hand, and no pressure.",
    "silicate type": "The older kind of inhibitor: acts fast, lasts two or three years.",
    "still inside": "What the drains did not let out.",
    "strength": "How much of the mixture is product, by volume, unless it says by mass.",
    "thermostat": "The valve that opens the way to the radiator when the coolant is hot.",
    "target": "The freeze point that the plan aims at.",
    "verified": "Read after a hot run, repeated, and in agreement with the litres.",
    "zero error": "How far off the instrument reads clean water."
  },
  "stage_means": {
    "identify": "Enter what is inside as far as it is known, and choose the coolant to pour.",
    "inspect": "Look for what is wrong before anything is drained; then choose the job.",
    "open": "Make sure it is cold and without pressure before you open it.",
    "drain": "Let it out at each drain point and measure it: what is still inside follows from that.",
    "flush": "Rinse until little old coolant is left; each round is filled, run hot and drained.",
    "mix": "Set the target: the litres to pour on top of what is still inside follow.",
    "fill": "Shut everything, pour, look for leaks, let the air out.",
    "verify": "Run it hot, let it cool, read it three times; then a final check and the sign-off."
  },
  "loop_sign": {
    "in_work": "In work",
    "overdue": "Overdue",
    "due": "Due",
    "not_protected": "Not protected",
    "not_read": "Not read"
  },
  "job_type_means": {
    "check": "inspect and measure; nothing is drained",
    "dose": "the inhibitor is low, everything else is fine",
    "top_up": "the level is low, everything else is fine",
    "adjust_strength": "right coolant, wrong strength",
    "refill": "same coolant type; rinsing is optional",
    "change_type": "old coolant must be flushed out",
    "clean": "remove rust, scale or sludge first"
  },
  "topped_up": {
    "nothing": "nothing",
    "same": "the same",
    "water": "water",
    "other": "another kind",
    "unknown": "not known"
  },
  "tank": {
    "degas": "degas tank",
    "overflow": "overflow bottle",
    "catch": "catch tank",
    "degas_and_catch": "degas and catch tank",
    "none": "none"
  },
  "level_rule": {
    "between_marks": "between the marks",
    "at_max": "upper mark",
    "below_lip": "below the lip",
    "half_full": "half full"
  },
  "loop_use": {
    "power_electronics": "power electronics",
    "battery": "battery",
    "fuel_cell": "fuel cell"
  },
  "filter": {
    "none": "none",
    "blank": "blank",
    "charged": "charged"
  },
  "water_kind": {
    "demineralised": "demineralised",
    "tap": "tap",
    "softened": "softened"
  },
  "method": {
    "fill_run_drain": "Fill, run, drain",
    "cleaner": "Cleaner",
    "open_rinse": "Rinse through open drains",
    "hose_flow": "Hose flow at the heater",
    "parts": "Part by part, reverse flow first",
    "blow_out": "Blow out"
  },
  "waste": {
    "old_coolant": "Old coolant",
    "rinse_water": "Rinse water",
    "cleaner_water": "Cleaner water",
    "new_mix": "New mix, drained again"
  },
  "proof": {
    "proven": "Verified",
    "protected": "Protected, off target",
    "read_again": "Read again",
    "too_weak": "Too weak",
    "too_strong": "Past the useful maximum",
    "does_not_agree": "Does not agree",
    "glycol_free": "Glycol-free",
    "checked": "Checked",
    "mixed_bases": "Mixed bases",
    "wrong_product": "Wrong product",
    "water_in": "Water inside",
    "use_unknown": "Use not entered",
    "not_measured": "Conductivity not measured",
    "conducts": "Conductivity too high"
  },
  "measured": {
    "weighed": "weighed",
    "marks": "jug marks",
    "guessed": "guessed"
  },
  "timer": {
    "warm_up": "warm-up",
    "hose_flow": "hose flow",
    "vacuum_hold": "vacuum hold",
    "bleed": "bleed",
    "cleaner": "cleaner",
    "cooling": "cooling"
  },
  "band": {
    "act_now": "Act now",
    "your_turn": "Your turn",
    "running": "Running",
    "cooling": "Cooling or waiting",
    "paused": "Paused"
  },
  "plan_kind": {
    "service": "Service",
    "level_check": "Level check",
    "reading": "Reading",
    "unprotected": "Not protected",
    "frost": "Frost",
    "zero_check": "Zero check"
  },
  "figure_kind": {
    "coolant": "Coolant and water poured",
    "waste": "Waste kept",
    "hours": "Hours of jobs, without pauses",
    "jobs": "Jobs signed off"
  },
  "parking": {
    "bay": "in the bay",
    "indoors": "indoors",
    "outdoors": "outdoors"
  },
  "can_kind": {
    "coolant": "coolant",
    "agent": "cleaner or additive",
    "water": "mixing water",
    "recovered": "recovered coolant"
  },
  "lost_when": {
    "cold": "overnight, cold",
    "hot": "only when hot",
    "no_trace": "no trace anywhere"
  },
  "low_source": {
    "entered": "entered",
    "forecast": "forecast",
    "coldest": "coldest expected here"
  },
  "mix_input": {
    "loop_volume_l": "Capacity",
    "drained_l": "Drained",
    "inside_strength_percent": "Strength inside",
    "glycol_mass_percent": "Glycol in the product"
  },
  "mix_input_measured": {
    "loop_volume_l": "measured",
    "drained_l": "weighed",
    "inside_strength_percent": "read",
    "glycol_mass_percent": "known"
  },
  "claim": {
    "read": "read",
    "read_since": "read",
    "as_found": "as found",
    "believed": "reported",
    "by_litres": "predicted",
    "rinse_water": "predicted",
    "weakest_vessel": "predicted",
    "diluted": "predicted",
    "glycol_free": "no glycol"
  },
  "node_kind": {
    "tank": "tank",
    "radiator": "radiator",
    "block": "block and head",
    "heater": "heater",
    "cooler": "oil or other cooler",
    "electronics": "electronics",
    "hoses": "hoses"
  },
  "via": {
    "none": "nothing",
    "thermostat": "thermostat",
    "heater_valve": "heater valve",
    "pump": "pump"
  },
  "bleeder": {
    "nipple": "nipple",
    "screw": "screw",
    "pipe": "thin pipe"
  },
  "agent_kind": {
    "cleaner": "cleaner",
    "additive": "additive"
  },
  "scale": {
    "freeze_ethylene": "ethylene scale",
    "freeze_propylene": "propylene scale",
    "brix": "Brix scale",
    "refractive_index": "refractive index",
    "specific_gravity": "specific gravity",
    "strength_ethylene": "% ethylene glycol",
    "strength_propylene": "% propylene glycol"
  },
  "instrument_kind": {
    "optical": "optical refractometer",
    "digital": "digital refractometer",
    "hydrometer": "hydrometer",
    "steps": "step tester",
    "strips": "test strips",
    "conductivity": "conductivity meter"
  },
  "water_verdict": {
    "fit": "for mixes and last rinses",
    "rinse_only": "early rinses only",
    "unknown": "early rinses only, until analysed"
  },
  "place": {
    "as_found": "as found",
    "rinse": "rinse",
    "finished": "finished"
  },
  "ran": {
    "engine": "Engine ran since",
    "preheater": "Preheater ran since"
  },
  "rule_group": {
    "target": "Target and mix",
    "chemistry": "Chemistry",
    "inspect": "Inspect",
    "proof": "Reading and verdict",
    "life": "Age and checks due",
    "season": "Frost",
    "water": "Mixing water",
    "cost": "What a change costs",
    "open": "Opening and cooling",
    "flush": "Flushing and cleaning",
    "fill": "Filling and bleeding",
    "spread": "How sure"
  },
  "rule_group_means": {
    "target": "how cold is cold enough, and what is in stock",
    "chemistry": "how much old coolant may stay",
    "inspect": "what counts as a finding",
    "proof": "when a reading counts",
    "life": "when to check again; the maker’s interval comes first",
    "season": "when frost comes here, and how far ahead to plan",
    "water": "which water may stay in a loop",
    "cost": "time, estimated before anything is opened",
    "open": "when it may be opened, and how long cooling takes",
    "flush": "how it is rinsed, how long a cleaner may stay",
    "fill": "vacuum, top-ups, when the thermostat opens",
    "spread": "standard deviations used for intervals"
  },
  "look": {
    "clean_bright": "clean bright",
    "crystal_clear": "crystal clear",
    "residual_tint": "slight tint",
    "faded": "faded",
    "slight_haze": "slight haze",
    "cloudy": "cloudy",
    "gel": "gel",
    "brown_swirl": "brown swirl when stirred",
    "orange_rust": "orange rust",
    "fine_sand": "sand-like rust",
    "particles": "particles",
    "clay": "clay-like deposit",
    "oily_film": "oily film",
    "froth": "froth"
  },
  "reading_flag": {
    "zero_off": "zero off",
    "other_scale": "wrong scale, converted",
    "outside_compensation": "too cold or too warm",
    "mixed_bases": "mixed bases",
    "in_doubt": "in doubt: zero was off",
    "soft": "blurred edge",
    "two_lines": "two lines",
    "contradicts": "not as expected from the litres",
    "not_run_hot": "not run hot"
  },
  "watch": {
    "falling": "Protection falls",
    "contradicts": "Not as expected from the litres",
    "disagrees": "Instruments disagree"
  },
  "material": {
    "aluminium": "aluminium",
    "cast_iron": "cast iron",
    "copper_brass_solder": "copper-brass and solder",
    "wet_liners": "wet liners",
    "old_seals": "old seals"
  },
  "capacity_from": {
    "measured": "measured",
    "manual": "manual",
    "remembered": "memory",
    "learned": "readings",
    "kind": "usual for its kind"
  }
} as const;
