"""Routes of the door for other devices."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Path, Request, Response

from orthocris.api.door.gate import COOKIE, give_cookie, token_of
from orthocris.api.door.schemas import DoorIn, DoorOut, EnterIn, PasscodeIn, SessionOut
from orthocris.api.files import SVG, Svg
from orthocris.api.requests import Ctx
from orthocris.core.errors import ConflictError
from orthocris.formats.prints import code_svg
from orthocris.services.door import admission
from orthocris.services.door.network import Network

router = APIRouter(prefix="/api/door")


def network_of(request: Request) -> Network | None:
    """Return the home network, None where the application is served without one."""
    found: Network | None = request.app.state.network
    return found


Home = Annotated[Network | None, Depends(network_of)]


@router.get("")
def door(context: Ctx, home: Home) -> DoorOut:
    """Return whether the door is open, where, and who came in."""
    return _door(context, home)


@router.put("")
def change_door(context: Ctx, home: Home, body: DoorIn) -> DoorOut:
    """Open or shut the door, for this time or at each start; a first passcode is told once."""
    network = _needed(home)
    told: str | None = None
    if body.open:
        if not admission.has_passcode(context):
            told = admission.set_passcode(context, None)
        network.open()
    else:
        network.shut()
    admission.keep_open(context, is_open=body.open and body.kept)
    return _door(context, home, told)


@router.post("/passcode")
def change_passcode(context: Ctx, home: Home, body: PasscodeIn) -> DoorOut:
    """Set or make a passcode; every device must give it anew."""
    return _door(context, home, admission.set_passcode(context, body.passcode))


@router.post("/enter", status_code=204)
def enter(context: Ctx, request: Request, body: EnterIn) -> Response:
    """Let a device in that knows the passcode."""
    origin = request.client.host if request.client else "nowhere"
    token = admission.enter(context, body.passcode, _device(request), origin)
    answer = Response(status_code=204)
    give_cookie(answer, token)
    return answer


@router.post("/leave", status_code=204)
def leave(context: Ctx, request: Request) -> Response:
    """End the session of the device that asks."""
    token = token_of(request.headers.get("cookie", ""))
    if token:
        admission.leave(context, token)
    answer = Response(status_code=204)
    answer.delete_cookie(COOKIE, path="/", secure=True, httponly=True, samesite="strict")
    return answer


@router.delete("/sessions/{session}", status_code=204)
def end_session(context: Ctx, session: Annotated[int, Path(ge=1, le=2**31 - 1)]) -> None:
    """End the session of a device."""
    admission.end_session(context, session)


@router.get("/authority", response_class=Response)
def authority(home: Home) -> Response:
    """Return the certificate by which devices come to trust this machine."""
    return Response(
        _needed(home).authority(),
        media_type="application/x-x509-ca-cert",
        headers={"Content-Disposition": 'attachment; filename="orthocris-home.crt"'},
    )


@router.get("/code.svg", response_class=Response, responses=SVG)
def code(home: Home) -> Svg:
    """Return the address as a code that a phone reads."""
    opened = _needed(home).opened
    if opened is None:
        raise ConflictError("the door is shut", code="door_shut", fix="Open it first.")
    return Svg(code_svg(opened.address))


def _door(context: Ctx, home: Network | None, told: str | None = None) -> DoorOut:
    opened = home.opened if home else None
    return DoorOut(
        possible=home is not None,
        open=opened is not None,
        kept=admission.is_kept_open(context),
        address=opened.address if opened else None,
        others=opened.others if opened else (),
        fingerprint=opened.fingerprint if opened else None,
        has_passcode=admission.has_passcode(context),
        sessions=tuple(SessionOut.model_validate(s) for s in admission.sessions(context)),
        passcode=told,
    )


def _needed(home: Network | None) -> Network:
    if home is None:
        raise ConflictError(
            "this program is served without the home network",
            code="no_network",
            fix="Start it with: orthocris serve.",
        )
    return home


def _device(request: Request) -> str:
    """What a device says of itself, as far as it helps to know it again."""
    said = request.headers.get("user-agent", "")
    inside = said.partition("(")[2].partition(")")[0]
    return inside.replace(";", ",") or said
