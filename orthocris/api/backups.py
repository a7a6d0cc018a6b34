"""Routes of the copies of the garden; from other devices they are not reached."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Path, Response
from fastapi.responses import FileResponse

from orthocris.api.base import Out
from orthocris.api.files import file_of
from orthocris.api.requests import Ctx, MadeAt
from orthocris.services import backups
from orthocris.storage.backups import NAME, Reason

router = APIRouter(prefix="/api/backups")
Name = Annotated[str, Path(pattern=f"^{NAME.pattern}$")]
SQLITE = "application/vnd.sqlite3"


class BackupOut(Out):
    """One copy; `size` in bytes."""

    name: str
    made_at: datetime
    reason: Reason
    size: int


class BackupsOut(Out):
    """The copies, the newest first, and what is wrong with the data itself, if anything is."""

    folder: str
    items: tuple[BackupOut, ...]
    damage: str | None


class RestoredOut(Out):
    """What became of the data before, and how many pictures are no longer there."""

    kept: BackupOut | None
    set_aside: str | None
    pictures_missing: int


@router.get("")
def all_backups(context: Ctx) -> BackupsOut:
    """Return the copies there are."""
    damage = context.database.damage
    return BackupsOut(
        folder=str(backups.folder_of(context)),
        items=tuple(BackupOut.model_validate(one) for one in backups.backups_of(context)),
        damage=damage.message if damage else None,
    )


@router.post("", status_code=201)
def make_backup(context: Ctx, made_at: MadeAt) -> BackupOut:
    """Make a copy of the garden as it is now."""
    made = BackupOut.model_validate(backups.make_backup(context))
    made_at(f"/api/backups/{made.name}")
    return made


@router.get("/{name}", response_class=FileResponse, responses=file_of(SQLITE))
def backup(context: Ctx, name: Name) -> FileResponse:
    """Return the file of a copy."""
    return FileResponse(backups.place_of(context, name), media_type=SQLITE, filename=name)


@router.delete("/{name}", status_code=204)
def remove_backup(context: Ctx, name: Name) -> Response:
    """Remove a copy."""
    backups.remove_backup(context, name)
    return Response(status_code=204)


@router.post("/{name}/restore")
def restore(context: Ctx, name: Name) -> RestoredOut:
    """Put a copy in the place of the data; what is there now is kept."""
    return RestoredOut.model_validate(backups.restore(context, backups.place_of(context, name)))
