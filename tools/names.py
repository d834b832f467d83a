"""The names of the trade for the screen, made from the core: python -m tools.names writes web/src/api/names.gen.ts."""

from __future__ import annotations

import json
from pathlib import Path

from temper_core.views.names import NAMES

KEPT = Path(__file__).resolve().parents[1] / "web" / "src" / "api" / "names.gen.ts"
HEAD = "/** Made by `python -m tools.names` from the core, which GET /api/names serves as well. Not written by hand. */\n"


def made() -> str:
    """The file as it should be."""
    body = json.dumps({key: dict(rows) for key, rows in NAMES.items()}, indent=2, ensure_ascii=False)
    return f"{HEAD}export const NAMES = {body} as const;\n"


if __name__ == "__main__":
    KEPT.write_text(made())
