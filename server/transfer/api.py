"""The depot's archive, for a lead."""

from __future__ import annotations

import tempfile
from datetime import UTC, datetime
from pathlib import Path

from django.http import FileResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from config.problems import REFUSALS
from people.permissions import IsLeadHere, person_of
from transfer.out import write_archive


class ArchiveView(APIView):
    """Everything of the depot in open formats."""

    permission_classes = [IsLeadHere]

    @extend_schema(operation_id="archive_get", responses={(200, "application/zip"): OpenApiTypes.BINARY, **REFUSALS})
    def get(self, request: Request) -> FileResponse:
        """One zip: JSON Lines and CSV of every table, the photos, what each column is. Leads only."""
        with tempfile.TemporaryDirectory(prefix="temper-archive-") as folder:
            path = Path(folder) / "depot.zip"
            write_archive(person_of(request).own_depot, path)
            ready = path.open("rb")  # the file lives as long as it is open
        name = f"temper-depot-{datetime.now(UTC):%Y%m%dT%H%M%SZ}.zip"
        return FileResponse(ready, as_attachment=True, filename=name, content_type="application/zip")
