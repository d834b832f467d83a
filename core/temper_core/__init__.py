"""The trade of changing engine coolant: pure computation, no Django, no HTTP, no files written, no clock read.

Floors, each importing only from those below (import-linter holds it, see pyproject.toml):
5 loop, 4 judge, 3 mix / reading / circuit / entries, 2 glycol, 1 quantity / spread / errors / policy.
"""

__version__ = "0.6.0"
