"""The OpenAPI document as the running server serves it."""

from drf_spectacular.utils import extend_schema
from drf_spectacular.views import SpectacularAPIView
from rest_framework.permissions import IsAuthenticated

from people.auth import CookieAuthentication
from people.tokens import ProgramAuthentication


@extend_schema(exclude=True)
class SchemaView(SpectacularAPIView):
    """For signed-in people, and programs in their name."""

    permission_classes = [IsAuthenticated]
    authentication_classes = [ProgramAuthentication, CookieAuthentication]
