"""Who may do what, as small predicates."""

from rest_framework.exceptions import NotAuthenticated
from rest_framework.permissions import SAFE_METHODS, BasePermission, IsAuthenticated
from rest_framework.request import Request

from people.models import ApiToken, Person, Role


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
        if isinstance(request.auth, ApiToken) and request.auth.reads_only and request.method not in SAFE_METHODS:
            self.message = "This token only reads. Make one that may record, too."
            return False
        return isinstance(request.user, Person) and request.user.depot_id is not None


class IsLead(IsOfADepot):
    """Leads edit machines, catalogue, people and policy."""

    message = "Only a lead can do this. Ask a lead."

    def has_permission(self, request: Request, view: object) -> bool:
        """True for leads."""
        return super().has_permission(request, view) and person_of(request).role == Role.LEAD


NOT_A_PROGRAM = "A program may not do this: a person has to sign in."


class IsHere(IsAuthenticated):
    """Signed in as a person, not as a program in somebody's name: accounts and tokens are for people."""

    message = NOT_A_PROGRAM

    def has_permission(self, request: Request, view: object) -> bool:
        """True for a session."""
        return bool(super().has_permission(request, view)) and not isinstance(request.auth, ApiToken)  # type: ignore[arg-type]


class IsLeadHere(IsLead):
    """A lead who is signed in as a person."""

    def has_permission(self, request: Request, view: object) -> bool:
        """True for a lead's session."""
        if isinstance(request.auth, ApiToken):
            self.message = NOT_A_PROGRAM
            return False
        return super().has_permission(request, view)


class NotAProgram(BasePermission):
    """A person's session: what a tablet takes along belongs to a person."""

    message = NOT_A_PROGRAM

    def has_permission(self, request: Request, view: object) -> bool:
        """False for a program's token."""
        return not isinstance(request.auth, ApiToken)
