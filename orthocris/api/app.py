"""The application: API and the built front end in one process."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, Response
from fastapi.staticfiles import StaticFiles

from orthocris import __version__
from orthocris.api import errors
from orthocris.api.counting.routes import router as counting
from orthocris.api.field.round_routes import router as rounds
from orthocris.api.field.routes import router as field
from orthocris.api.finding.routes import router as finding
from orthocris.api.guard import Guard
from orthocris.api.knowledge.routes import router as knowledge
from orthocris.api.pantry.remedy_routes import router as remedy
from orthocris.api.pantry.routes import router as pantry
from orthocris.api.planning.power_routes import router as power
from orthocris.api.planning.printing_routes import router as printing
from orthocris.api.planning.routes import router as planning
from orthocris.api.trial.routes import router as trial
from orthocris.api.verdict.routes import router as verdict
from orthocris.api.weather.routes import router as weather
from orthocris.services.context import Context
from orthocris.services.planning.powers import PowerJobs

ROUTERS = (
    knowledge,
    finding,
    trial,
    planning,
    power,
    printing,
    pantry,
    remedy,
    weather,
    field,
    rounds,
    counting,
    verdict,
)


def create_app(context: Context, front_end: Path | None) -> FastAPI:
    """Make the application on migrated data.

    Parameters
    ----------
    context:
        Data, clock and seeds.
    front_end:
        Folder of the built front end, or None to serve the API alone.
    """
    app = FastAPI(
        title="Orthocris",
        version=__version__,
        openapi_url="/api/openapi.json",
        docs_url=None,
        redoc_url=None,
    )
    app.state.context = context
    app.state.power_jobs = PowerJobs()
    errors.install(app)
    for router in ROUTERS:
        app.include_router(router)
    app.add_middleware(Guard)
    if front_end is not None:
        _serve_front_end(app, front_end)
    return app


def _serve_front_end(app: FastAPI, folder: Path) -> None:
    app.mount("/assets", StaticFiles(directory=folder / "assets"), name="assets")

    @app.get("/api/{rest:path}", include_in_schema=False)
    def no_such_route(request: Request, rest: str) -> Response:
        return errors.error_response(
            404, "not_found", f"there is nothing at /api/{rest[:80]}", fix="See /api/openapi.json."
        )

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        """Serve a file of the front end, or its page for every address the router knows."""
        try:
            wanted = (folder / path).resolve()
            if path and wanted.is_file() and wanted.is_relative_to(folder.resolve()):
                return FileResponse(wanted)
        except (OSError, ValueError):
            pass  # no file can have such a name, so it is no file of ours
        return FileResponse(folder / "index.html", headers={"Cache-Control": "no-cache"})
