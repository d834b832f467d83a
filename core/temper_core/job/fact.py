"""What every kind of fact is: something one person recorded of one loop."""

from __future__ import annotations


class Fact:
    """Base of the facts of a record: frozen dataclasses, one per kind of entry, registered by their stage (`kinds.py`)."""

    __slots__ = ()
