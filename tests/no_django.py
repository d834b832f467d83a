"""A plugin for the core's tests: whoever imports Django, or anything of the server, fails, as if it were not installed."""

import sys

GONE = frozenset(
    {"django", "rest_framework", "pydantic", "config", "jobs", "instruments", "fleet", "catalogue", "people", "depots"}
)


class NotInstalled:
    """A finder that finds none of them."""

    def find_spec(self, name, path=None, target=None):
        """Refuse by the name of the package."""
        if name.partition(".")[0] in GONE:
            raise ModuleNotFoundError(f"{name} is not installed where the core's tests run", name=name)


sys.meta_path.insert(0, NotInstalled())
