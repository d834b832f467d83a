"""Judge every signed loop again by today's rules, and list for leads what is worse now."""

from typing import Any

from django.core.management.base import BaseCommand

from depots.models import Depot
from jobs.rejudging import rejudge


class Command(BaseCommand):
    """Run it after an upgrade; run again, nothing is listed twice."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """All depots, one line each."""
        for depot in Depot.objects.all():
            self.stdout.write(f"{depot}: {rejudge(depot)} to answer on the board.")
