"""Docstrings of the core: what a public function gives, in which units, what it raises, where a rule is from.

Counted, not weighed: a public function or class has a docstring; one that raises a CoreError or Conflict of its own says so;
a module of rules or of figures names its source, or "common practice, no source".
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path

CORE = Path(__file__).resolve().parents[1] / "core" / "temper_core"
LEAST = 0.95
REFUSES = ("CoreError", "Conflict", "OutOfRange")
UNIT = re.compile(r"\[[^\]]+\]|%|litre|degC|°C|kPa|minutes|kg|mm|fraction|percent|\bl\b|share|days|months|hours|K\b")
SUFFIX = re.compile(r"_(l|c|k|kpa|kg|percent|min|ml|mm|s|km|hours|days|w|sd)$")
SOURCE = re.compile(r"[Ss]ource|common practice|NIST|ASHRAE|handbook|from memory|standard|by way of", re.IGNORECASE)
RULES = re.compile(r"(^|/)(rules|science/\w+|basis/policy)\.py$")


def public(tree: ast.Module) -> Iterator[ast.FunctionDef | ast.ClassDef]:
    """Functions and classes of a module, and methods of its classes, that anybody may use."""
    for node in tree.body:
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
            yield node
            if isinstance(node, ast.ClassDef):
                yield from (
                    part for part in node.body if isinstance(part, ast.FunctionDef) and not part.name.startswith("_")
                )


def raises(node: ast.FunctionDef) -> bool:
    """Whether it refuses by itself."""
    calls = (part.exc for part in ast.walk(node) if isinstance(part, ast.Raise) and part.exc is not None)
    return any(isinstance(exc, ast.Call) and getattr(exc.func, "id", "") in REFUSES for exc in calls)


def wants(path: Path, node: ast.FunctionDef | ast.ClassDef, module: str) -> Iterator[str]:
    """What a docstring lacks."""
    doc = ast.get_docstring(node) or ""
    if not doc:
        yield "no docstring"
        return
    if isinstance(node, ast.ClassDef):
        return
    whole = f"{module} {doc}"
    if raises(node) and not re.search(r"[Rr]aise|[Rr]efuse", whole):
        yield "does not say what it raises"
    returned = ast.unparse(node.returns) if node.returns else ""
    if returned in ("float", "float | None") and not (SUFFIX.search(node.name) or UNIT.search(doc)):
        yield "does not say its unit"
    if RULES.search(str(path.relative_to(CORE))) and not SOURCE.search(whole):
        yield "names no source"


def counted() -> tuple[int, list[str]]:
    """How many there are, and what is wanting, as path:line name: what."""
    total, wanting = 0, []
    for path in sorted(CORE.rglob("*.py")):
        if path.name == "sentences.py":  # each tells the entry that it is called by, as the module says
            continue
        tree = ast.parse(path.read_text())
        module = ast.get_docstring(tree) or ""
        for node in public(tree):
            total += 1
            place = f"{path.relative_to(CORE)}:{node.lineno} {node.name}"
            wanting += [f"{place}: {what}" for what in wants(path, node, module)]
    return total, wanting


def main() -> int:
    """Print the share; 1 where it is under what is asked."""
    total, wanting = counted()
    bad = len({row.split(": ")[0] for row in wanting})
    share = 1 - bad / total
    print(f"docstrings of the core: {share:.1%} of {total} say what they have to (asked: {LEAST:.0%})")
    if share < LEAST or "--all" in sys.argv:
        print("\n".join(wanting))
    return int(share < LEAST)


if __name__ == "__main__":
    sys.exit(main())
