"""Signing in and out, and changing one's password."""

from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Field, Router
from ninja.utils import check_csrf

from hovvet.server.accounts.access import user_of, workspace_of
from hovvet.server.accounts.throttle import one_try
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema

router = Router(tags=["session"])


class Session(Schema):
    """Who is signed in, if anybody, and the token that changes must carry."""

    user: str | None
    workspace: str | None
    csrf: str


class SignIn(Schema):
    """A name and a password."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=1000)


class NewPassword(Schema):
    """The password so far, and the one from now on."""

    old: str = Field(max_length=1000)
    new: str = Field(max_length=1000)


def own_page(request: HttpRequest) -> bool:
    """Whether a request comes from our own page; asked before anything of it is read. Raises Problem."""
    if check_csrf(request):
        raise Problem(403, "This page is out of date. Reload it, then sign in again.")
    return True


def _session(request: HttpRequest) -> Session:
    signed_in = request.user.is_authenticated
    return Session(
        user=request.user.get_username() if signed_in else None,
        workspace=workspace_of(request).name if signed_in else None,
        csrf=get_token(request),
    )


@router.get("", auth=None, response=Session)
def read_session(request: HttpRequest) -> Session:
    """Who is signed in."""
    return _session(request)


@router.post("", auth=own_page, response=Session)
def sign_in(request: HttpRequest, given: SignIn) -> Session:
    """Sign in with name and password."""
    with one_try(request, given.username) as attempt:
        user = authenticate(request, username=given.username, password=given.password)
        if user is None:
            attempt.failed()
            raise Problem(401, "Wrong name or password.")
        attempt.succeeded()
    login(request, user)
    return _session(request)


@router.delete("", response={204: None})
def sign_out(request: HttpRequest) -> HttpResponse:
    """Sign out."""
    logout(request)
    return HttpResponse(status=204)


@router.post("/password", response=Session)
def change_password(request: HttpRequest, given: NewPassword) -> Session:
    """Change one's own password; other browsers that are signed in are signed out."""
    user = user_of(request)
    with one_try(request, user.get_username()) as attempt:
        if not user.check_password(given.old):
            attempt.failed()
            raise Problem(403, "That is not your present password.")
    try:
        validate_password(given.new, user)
    except ValidationError as error:
        raise Problem(422, " ".join(error.messages)) from None
    user.set_password(given.new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    return _session(request)
