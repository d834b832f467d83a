"""Who may do what, as small predicates."""

from rest_framework.exceptions import NotAuthenticated
from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from people.models import Person, Role


def person_of(request: Request) -> Person:
    """Who asks; raises NotAuthenticated for nobody."""
    if not isinstance(request.user, Person):
        raise NotAuthenticated
    return request.user


class IsOfADepot(BasePermission):
    """Signed in and belonging to a depot."""

    message = "You belong to no depot yet. Ask a lead."

    def has_permission(self, request: Request, view: object) -> bool:
        """True for members whose password is their own."""
        if isinstance(request.user, Person) and request.user.must_change:
            self.message = "Your password was set by somebody else. Set your own first."
            return False
        return isinstance(request.user, Person) and request.user.depot_id is not None


class IsLead(IsOfADepot):
    """Leads edit machines, catalogue, people and policy."""

    message = "Only a lead can do this. Ask a lead."

    def has_permission(self, request: Request, view: object) -> bool:
        """True for leads."""
        return super().has_permission(request, view) and person_of(request).role == Role.LEAD
