"""Names of what may be wrong with a reading, and of what several readings say together."""

READING_FLAG_NAMES = {
    "zero_off": "zero off",
    "other_scale": "wrong scale, converted",
    "outside_compensation": "too cold or too warm",
    "mixed_bases": "mixed bases",
    "in_doubt": "in doubt: zero was off",
    "soft": "blurred edge",
    "two_lines": "two lines",
    "contradicts": "not as expected from the litres",
    "not_run_hot": "not run hot",
}
WATCH_NAMES = {
    "falling": "protection falls",
    "contradicts": "not as expected from the litres",
    "disagrees": "instruments disagree",
}
