"""The house of the core stays one that somebody new finds their way in: layers, rooms, sizes, stages apart."""

import ast
from collections import Counter
from pathlib import Path
from statistics import median

import pytest

import temper_core

ROOT = Path(temper_core.__file__).parent
MODULES = sorted(path for path in ROOT.rglob("*.py") if path.name != "__init__.py")
STAGES = {"between", "drain", "fill", "flush", "identify", "inspect", "mix", "open", "verify", "waiting"}
TABLES = {"basis/policy.py", "job/inspect/facts.py"}  # tables of data: as long as what they list
SHARED = {"facts", "state"}  # plain data: what was recorded, what is known
ACTS = {"apply", "validate", "view", "sentences"}  # what a stage does with it


def name(path):
    """A module as it is spoken of."""
    return str(path.relative_to(ROOT))


def lines(path):
    """How long it is."""
    return len(path.read_text().splitlines())


def imports(path):
    """Modules of the core that it imports by name, in parts."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("temper_core."):
            yield node.module.split(".")[1:]


def room(path):
    """The folder under job/ that a module belongs to; None for any other."""
    parts = path.relative_to(ROOT).parts
    return parts[1] if parts[0] == "job" and len(parts) > 2 else None


def test_a_stage_reads_only_facts_and_states_of_another():
    wrong = [
        (name(path), ".".join(parts))
        for path in MODULES
        if room(path) in STAGES
        for parts in imports(path)
        if parts[0] == "job" and parts[1] in STAGES - {room(path)} and (parts[2:3] or ["everything"])[0] not in SHARED
    ]
    assert wrong == []


def test_a_room_that_stages_share_never_acts_for_one():
    wrong = [
        (name(path), ".".join(parts))
        for path in MODULES
        if room(path) is not None and room(path) not in STAGES
        for parts in imports(path)
        if parts[0] == "job" and parts[1] in STAGES and ACTS & set(parts[2:])
    ]
    assert wrong == []


def test_no_room_holds_more_than_fifteen():
    crowded = {folder: n for folder, n in Counter(path.parent for path in MODULES).items() if n > 15}
    assert crowded == {}


def test_files_stay_small_enough_to_know():
    assert median(lines(path) for path in MODULES) <= 110
    assert {name(path): lines(path) for path in MODULES if lines(path) > 250 and name(path) not in TABLES} == {}


@pytest.mark.parametrize("stage", sorted(STAGES))
def test_a_stage_has_rooms_of_the_usual_names_first(stage):
    """Every stage says at least what is recorded in it, or what is known of it."""
    rooms = {path.stem for path in (ROOT / "job" / stage).glob("*.py")}
    assert rooms & SHARED, rooms


def test_no_two_modules_of_a_folder_have_names_that_differ_by_an_ending():
    for folder in {path.parent for path in MODULES}:
        stems = sorted(path.stem for path in folder.glob("*.py"))
        alike = [(a, b) for a, b in zip(stems, stems[1:], strict=False) if b.startswith(a) and "_" not in b[len(a) :]]
        assert alike == [], folder
