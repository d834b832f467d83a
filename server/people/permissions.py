"""Who may do what, as small predicates."""

from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from people.models import Role


class IsOfADepot(BasePermission):
    """Signed in and belonging to a depot."""

    message = "You belong to no depot yet: ask a lead."

    def has_permission(self, request: Request, view: object) -> bool:
        """True for members."""
        return bool(request.user.is_authenticated and request.user.depot_id)


class IsLead(IsOfADepot):
    """Leads edit machines, catalogue, people and policy."""

    message = "Only a lead may do this."

    def has_permission(self, request: Request, view: object) -> bool:
        """True for leads."""
        return super().has_permission(request, view) and request.user.role == Role.LEAD
