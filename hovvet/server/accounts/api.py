"""Signing in and out."""

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router, Schema
from ninja.throttling import AnonRateThrottle
from ninja.utils import check_csrf

from hovvet.server.accounts.access import workspace_of
from hovvet.server.problems import Problem

router = Router(tags=["session"])


class Session(Schema):
    """Who is signed in, if anybody, and the token that changes must carry."""

    user: str | None
    workspace: str | None
    csrf: str


class SignIn(Schema):
    """A name and a password."""

    username: str
    password: str


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


@router.post("", auth=None, response=Session, throttle=[AnonRateThrottle("30/m")])
def sign_in(request: HttpRequest, given: SignIn) -> Session:
    """Sign in with name and password."""
    if check_csrf(request):
        raise Problem(403, "This page is out of date. Reload it, then sign in again.")
    user = authenticate(request, username=given.username, password=given.password)
    if user is None:
        raise Problem(401, "That name and password do not belong together. Check both and try again.")
    login(request, user)
    return _session(request)


@router.delete("", response={204: None})
def sign_out(request: HttpRequest) -> HttpResponse:
    """Sign out."""
    logout(request)
    return HttpResponse(status=204)
