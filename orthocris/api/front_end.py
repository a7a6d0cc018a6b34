"""The built front end: its assets for ever and compressed, its page for every other address."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, Response
from starlette.exceptions import HTTPException
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from orthocris.api import errors

# A build names its assets by what is in them, so a name never means anything else.
FOR_EVER = "public, max-age=31536000, immutable"
ENCODINGS = (("br", ".br"), ("gzip", ".gz"))


class Assets(StaticFiles):
    """Files of the build; the one that was compressed beside a file goes out in its place."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """Return a file, compressed when the browser takes it and the build has made it."""
        accepted = Request(scope).headers.get("accept-encoding", "")
        for encoding, suffix in ENCODINGS:
            if encoding in accepted and self.lookup_path(path + suffix)[1] is not None:
                answer = await super().get_response(path + suffix, scope)
                answer.headers["Content-Encoding"] = encoding
                answer.headers["Content-Type"] = FileResponse(path).headers["content-type"]
                break
        else:
            answer = await super().get_response(path, scope)
        answer.headers["Cache-Control"] = FOR_EVER
        answer.headers.add_vary_header("Accept-Encoding")
        return answer


def serve_front_end(app: FastAPI, folder: Path) -> None:
    """Serve a build: assets, other files by their name, and its page for the router's addresses."""
    app.mount("/assets", Assets(directory=folder / "assets"), name="assets")

    @app.get("/api/{rest:path}", include_in_schema=False)
    def no_such_route(request: Request, rest: str) -> Response:
        if errors.allowed_methods(request):  # there is something, but it is not read
            raise HTTPException(405)
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
