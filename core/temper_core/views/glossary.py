"""The terms of the trade that the screens use, one sentence each; the words are ours, the trade's meaning, no source."""

from __future__ import annotations

from collections.abc import Mapping

GLOSSARY: Mapping[str, str] = {
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
    "zero error": "How far off the instrument reads clean water.",
}
STAGE_MEANS: Mapping[str, str] = {
    "identify": "Enter what is inside as far as it is known, and choose the coolant to pour.",
    "inspect": "Look for what is wrong before anything is drained; then choose the job.",
    "open": "Make sure it is cold and without pressure before you open it.",
    "drain": "Let it out at each drain point and measure it: what is still inside follows from that.",
    "flush": "Rinse until little old coolant is left; each round is filled, run hot and drained.",
    "mix": "Set the target: the litres to pour on top of what is still inside follow.",
    "fill": "Shut everything, pour, look for leaks, let the air out.",
    "verify": "Run it hot, let it cool, read it three times; then a final check and the sign-off.",
}
