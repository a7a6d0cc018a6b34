"""The application: API and the built front end in one process."""

from __future__ import annotations

from pathlib import Path

from fastapi import Depends, FastAPI

from orthocris import __version__
from orthocris.api import errors
from orthocris.api.answers import Answers
from orthocris.api.backups import router as backups
from orthocris.api.counting.notebook_routes import router as notebook
from orthocris.api.counting.paper_routes import router as paper
from orthocris.api.counting.practice_routes import router as practice
from orthocris.api.counting.routes import router as counting
from orthocris.api.door.routes import router as door
from orthocris.api.field.rest_routes import router as rest
from orthocris.api.field.round_routes import router as rounds
from orthocris.api.field.routes import router as field
from orthocris.api.finding.routes import router as finding
from orthocris.api.front_end import serve_front_end
from orthocris.api.guard import Guard
from orthocris.api.knowledge.routes import router as knowledge
from orthocris.api.moving import router as moving
from orthocris.api.pantry.remedy_routes import router as remedy
from orthocris.api.pantry.routes import router as pantry
from orthocris.api.planning.power_routes import router as power
from orthocris.api.planning.printing_routes import router as printing
from orthocris.api.planning.routes import router as planning
from orthocris.api.playing.routes import router as playing
from orthocris.api.requests import on_the_list
from orthocris.api.schema import tell_errors
from orthocris.api.seasons.routes import router as seasons
from orthocris.api.trial.routes import router as trial
from orthocris.api.trial.views import today_view
from orthocris.api.verdict.neighbour_routes import router as neighbours
from orthocris.api.verdict.routes import router as verdict
from orthocris.api.verdict.suiting_routes import router as suiting
from orthocris.api.weather.routes import router as weather
from orthocris.services.context import Context
from orthocris.services.planning.powers import PowerJobs
from orthocris.services.trial.board import TodayBoard

# Routes are tried one after the other: a tap finds its own first.
ROUTERS = (
    counting,
    knowledge,
    finding,
    trial,
    planning,
    power,
    printing,
    playing,
    pantry,
    remedy,
    weather,
    field,
    rounds,
    rest,
    seasons,
    verdict,
    neighbours,
    suiting,
    paper,
    notebook,
    practice,
    door,
    backups,
    moving,
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
        dependencies=[Depends(on_the_list)],
    )
    app.state.context = context
    app.state.network = None
    app.state.demo = None
    app.state.power_jobs = PowerJobs()
    app.state.today = TodayBoard(
        context, lambda found: today_view(found).model_dump_json().encode()
    )
    errors.install(app)
    tell_errors(app)
    for router in ROUTERS:
        app.include_router(router)
    app.add_middleware(Answers)
    app.add_middleware(Guard)
    if front_end is not None:
        serve_front_end(app, front_end)
    return app
