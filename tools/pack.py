"""Pack what a browser computes with: the core, the shapes of the API and the few packages they need, as one tree of files.

The packages are those of the server's own lock file, by their hashes, for the platform of the browser's Python.
`python -m tools.pack FOLDER` writes the tree; web/scripts/pack-bay.mjs compiles it with that Python.
"""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
import tempfile
import zipfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
LOCK = ROOT / "requirements" / "base.txt"
PACKAGES = ("annotated-types", "pydantic", "pydantic-core", "typing-extensions", "typing-inspection")
PLATFORM, PYTHON = "pyemscripten_2026_0_wasm32", "314"
SERVER = {  # of the server only what knows no Django; import-linter holds it
    "bay": ("answers", "board", "kit", "rows", "taking_in", "work"),
    "catalogue": ("schemas",),
    "compute": ("calculators", "flushing", "mixes", "others"),
    "config": ("refusals", "shapes"),
    "depots": ("schemas",),
    "fleet": ("schemas", "taking_in"),
    "jobs": (
        *("back_schemas", "entry_facts", "entry_schemas", "lines", "pages", "record_schemas", "rules", "schemas"),
        "stored",
    ),
    "people": ("shown",),
}
CORE_LEFT_OUT = ("simulate", "practice")  # true worlds answer on the server alone


def locked(name: str) -> str:
    """The lines of one package in the lock file; raises SystemExit where it is not locked."""
    found = re.search(rf"(?m)^{re.escape(name)}==(?:.*\n)(?:    --hash=.*\n)+", LOCK.read_text())
    if found is None:
        raise SystemExit(f"{name} is not in {LOCK.name}: lock it first.")
    return found.group(0)


def download(folder: Path) -> list[Path]:
    """The wheels of the packages, by the hashes of the lock file."""
    with tempfile.NamedTemporaryFile("w", suffix=".txt") as wanted:
        wanted.write("".join(locked(name) for name in PACKAGES))
        wanted.flush()
        command = [sys.executable, "-m", "pip", "download", "-q", "--no-deps", "--require-hashes", "--only-binary", ":all:"]
        where = ["--platform", PLATFORM, "--python-version", PYTHON, "--implementation", "cp", "-d", str(folder)]
        subprocess.run([*command, *where, "-r", wanted.name], check=True)
    return sorted(folder.glob("*.whl"))


def pack(folder: Path) -> None:
    """Write the tree: packages, the core, and of the server what runs in a browser."""
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    with tempfile.TemporaryDirectory() as wheels:
        for wheel in download(Path(wheels)):
            with zipfile.ZipFile(wheel) as packed:
                packed.extractall(folder)
    for name in ("pydantic/v1", "pydantic/mypy.py", "pydantic/_hypothesis_plugin.py"):
        target = folder / name
        shutil.rmtree(target) if target.is_dir() else target.unlink(missing_ok=True)
    leave = shutil.ignore_patterns("__pycache__", *CORE_LEFT_OUT)
    shutil.copytree(ROOT / "core" / "temper_core", folder / "temper_core", ignore=leave)
    for app, modules in SERVER.items():
        (folder / app).mkdir()
        for name in ("__init__", *modules):
            shutil.copyfile(ROOT / "server" / app / f"{name}.py", folder / app / f"{name}.py")


if __name__ == "__main__":
    pack(Path(sys.argv[1]))
