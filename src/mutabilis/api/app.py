"""The application: routers, plain errors, and the built front end."""

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from fastapi import FastAPI, HTTPException, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse, Response
from starlette.exceptions import HTTPException as StarletteHTTPException
from starlette.staticfiles import StaticFiles

from mutabilis import __version__
from mutabilis.core.diets import PackReading
from mutabilis.core.facts import Facts
from mutabilis.core.quantities.units import Profile
from mutabilis.store.database import Database, StoreError

from . import bench, book, counter, exchange, larder, stove
from .context import Context
from .guard import Guard

STATIC = Path(__file__).parent.parent / "static"
PLACES = ("", "bench", "book", "larder", "kitchen", "card", "stove")


def create_app(
    facts: Facts, database: Database, readings: Mapping[str, PackReading] | None = None, profile: Profile | None = None
) -> FastAPI:
    """The application over facts, a database, the pack readings and the profile that the kitchen's own files set."""
    app = FastAPI(title="Mutabilis", version=__version__, docs_url=None, redoc_url=None, openapi_url="/api/openapi.json")
    app.state.context = Context(facts, database, readings, profile)
    app.include_router(bench.router)
    app.include_router(book.router)
    app.include_router(larder.router)
    app.include_router(exchange.router)
    app.include_router(stove.router)
    app.include_router(counter.router)
    _errors(app)
    if (STATIC / "assets").is_dir():
        app.mount("/assets", _Hashed(directory=STATIC / "assets"))
    for place in PLACES:
        app.add_api_route(f"/{place}", _page, include_in_schema=False, response_class=Response)
        if place:
            app.add_api_route(f"/{place}/{{rest:path}}", _page, include_in_schema=False, response_class=Response)
    app.add_api_route("/favicon.svg", _favicon, include_in_schema=False, response_class=Response)
    app.add_middleware(Guard)
    return app


class _Hashed(StaticFiles):
    """Files whose names hold their hash never change."""

    def file_response(self, *args: Any, **kwargs: Any) -> Response:
        response = super().file_response(*args, **kwargs)
        response.headers["cache-control"] = "public, max-age=31536000, immutable"
        return response


def _page() -> Response:
    page = STATIC / "index.html"
    if not page.is_file():
        return Response("The front end is not built: run make demo.", 503, media_type="text/plain; charset=utf-8")
    return FileResponse(page, headers={"cache-control": "no-cache"}, media_type="text/html; charset=utf-8")


def _favicon() -> Response:
    return FileResponse(STATIC / "favicon.svg", media_type="image/svg+xml", headers={"cache-control": "max-age=86400"})


def _errors(app: FastAPI) -> None:
    def problem(status: int, error: str, field: str | None = None) -> JSONResponse:
        return JSONResponse({"error": error, "field": field}, status)

    @app.exception_handler(RequestValidationError)
    def invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"] if p != "body")
        if first["type"] == "json_invalid":
            return problem(400, "The request is not JSON.")
        return problem(422, f"{_words(first['type'], first['msg'])} Nothing was changed.", place or None)

    @app.exception_handler(StarletteHTTPException)
    def told(request: Request, error: HTTPException) -> JSONResponse:
        words = {404: "There is nothing at this address.", 405: "That cannot be done here."}
        return problem(
            error.status_code,
            str(error.detail) if error.detail not in ("Not Found", "Method Not Allowed") else words[error.status_code],
        )

    @app.exception_handler(KeyError)
    def unknown(request: Request, error: KeyError) -> JSONResponse:
        return problem(404, f"There is no “{str(error.args[0])[:60]}” here.")

    @app.exception_handler(StoreError)
    def store(request: Request, error: StoreError) -> JSONResponse:
        return problem(503, str(error))

    @app.exception_handler(ValueError)
    def value(request: Request, error: ValueError) -> JSONResponse:
        return problem(422, f"{str(error)[:200]}. Nothing was changed.")


def _words(kind: str, message: str) -> str:
    plain = {
        "greater_than_equal": "An amount cannot be below nought.",
        "finite_number": "An amount must be a number.",
        "float_parsing": "An amount must be a number.",
        "float_type": "An amount must be a number.",
        "less_than_equal": "That is more than a kitchen can hold (a tonne at most).",
        "missing": "Something is missing.",
        "string_too_long": "That text is too long.",
        "too_long": "That is too many.",
    }
    return plain.get(kind, f"{message}.")
