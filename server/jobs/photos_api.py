"""Photos: added to an entry of a loop, served to people of its depot only."""

from __future__ import annotations

import uuid

from django.http import FileResponse, Http404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer
from config.problems import REFUSALS
from jobs.actions import add_photo
from jobs.api import loop_of
from jobs.pictures import MOST_BYTES, check_size, path_of
from jobs.queries import bench_of, photo_is_of
from jobs.schemas import Bench
from people.permissions import IsOfADepot, person_of
from temper_core.basis.errors import CoreError

FORM_BYTES = 64 * 1024  # what the form around the file may take
UPLOAD = {
    "multipart/form-data": {
        "type": "object",
        "properties": {
            "id": {"type": "string", "format": "uuid"},
            "entry_id": {"type": "string", "format": "uuid"},
            "file": {"type": "string", "format": "binary"},
        },
        "required": ["id", "entry_id", "file"],
    }
}


def _uuid(request: Request, name: str) -> uuid.UUID:
    try:
        return uuid.UUID(str(request.data.get(name, "")))
    except ValueError:
        raise CoreError(name, f"{name} must be a UUID.", "uuid_parsing") from None


class PhotosView(APIView):
    """Photos of one loop's entries."""

    permission_classes = [IsOfADepot]
    parser_classes = [MultiPartParser]

    @extend_schema(operation_id="photo_add", request=UPLOAD, responses={201: Bench, **REFUSALS})
    def post(self, request: Request, loop_id: int) -> Response:
        """Add a photo (JPEG, PNG, HEIC, at most 8 MB) to an entry; it is written again without metadata."""
        loop = loop_of(request, loop_id)
        check_size(max(0, int(request.META.get("CONTENT_LENGTH") or 0) - FORM_BYTES))  # before the body is read
        file = request.FILES.get("file")
        if file is None:
            raise CoreError("file", "The photo is missing: pick one.", "required")
        check_size(file.size)
        add_photo(
            loop, _uuid(request, "id"), _uuid(request, "entry_id"), file.read(MOST_BYTES + 1), actor=person_of(request)
        )
        return answer(bench_of(loop, person_of(request)), 201)


class PhotoView(APIView):
    """One photo."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="photo_get", responses={(200, "image/jpeg"): OpenApiTypes.BINARY, **REFUSALS})
    def get(self, request: Request, sha256: str) -> FileResponse:
        """The picture, to people of the depot whose loop it was taken at."""
        if not photo_is_of(person_of(request).own_depot, sha256) or not path_of(sha256).is_file():
            raise Http404
        return FileResponse(path_of(sha256).open("rb"), content_type="image/jpeg")
