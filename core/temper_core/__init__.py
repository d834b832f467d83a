"""The trade of changing engine coolant: pure computation, no Django, no HTTP, no files written, no clock read.

Six layers, each importing only from those below (import-linter holds it); docs/architecture.md has the map.
6 views        what a screen, a sheet or an API shows: board row, bench, history, sheet, label, cautions, names
5 job          the record and the job: kinds of entry, fold, validation; a folder per stage, identify to verify, and
               between, waiting; shared rooms: visit, read, inside (what is in it), life (how old it is)
4 calculate    stateless questions and answers: mix, flush, boil, vacuum, expansion, weighing, cooldown
3 machine      circuit, layouts, equipment, contents of vessels, bleed recipes
  products     families, bases, agents, water, compatibility · instruments: scales, zero, repeats, agreement, trend
2 science      properties of glycol-water solutions: data with sources, and functions
1 basis        errors, messages, quantities and units, uncertainty, policy
"""

__version__ = "0.6.0"
