"""The application: routers, plain errors, and the built front end."""

import asyncio
from collections.abc import AsyncIterator, Callable, Mapping, Sequence
from contextlib import asynccontextmanager, suppress
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any

from fastapi import FastAPI, HTTPException, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse, Response
from starlette.exceptions import HTTPException as StarletteHTTPException
from starlette.staticfiles import StaticFiles

from mutabilis import __version__
from mutabilis.core.diets.packs import PackReading
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.store.copies import keep_daily
from mutabilis.store.database import Database, NoBackup, StoreError

from . import (
    bench,
    book,
    copies,
    counter,
    devices,
    dry_mixes,
    exchange,
    journal,
    journal_across,
    journal_files,
    larder,
    learned,
    morning,
    morning_files,
    photos,
    stove,
    why,
)
from .context import Context
from .guard import Guard
from .log import sum_up

FOLD_IN_S = 60.0  # how often what was written is brought into the one file
STATIC = Path(__file__).parent.parent / "static"
LOOSE = {
    "favicon.svg": "image/svg+xml",
    "manifest.webmanifest": "application/manifest+json",
    "icon-192.png": "image/png",
    "icon-512.png": "image/png",
    "sw.js": "text/javascript",
}
DAY_S = 86_400.0
PARTS = (
    bench, book, larder, dry_mixes, exchange, morning_files, morning, journal, journal_across, why, learned, journal_files, photos, stove, counter, devices, copies,
)  # fmt: skip
PLACES = ("", "index.html", "bench", "book", "larder", "kitchen", "card", "stove", "morning", "journal", "help")


def create_app(
    facts: AllFacts,
    database: Database,
    readings: Mapping[str, PackReading] | None = None,
    profile: Profile | None = None,
    minds_scale: bool = True,
) -> FastAPI:
    """The application over facts, a database, the pack readings and the profile that the kitchen's own files set. `minds_scale` False leaves
    it to whoever drives it to look at the scale."""
    context = Context(facts, database, readings, profile)

    @asynccontextmanager
    async def life(app: FastAPI) -> AsyncIterator[None]:
        """While it runs the book is folded in and copied now and then; at the end it is one file again."""
        ending = asyncio.Event()
        now_and_then = [lambda: forget_guests(context), lambda: sum_up(context, ending.is_set)]
        caring = asyncio.create_task(_care_for(database, ending, now_and_then))
        minding = asyncio.create_task(_mind_scale(context, ending)) if minds_scale else None
        yield
        ending.set()
        if minding is not None:
            await minding
        context.planner.stop()
        await caring  # a copy that is being made is finished first
        await run_in_threadpool(database.close_all)

    app = FastAPI(title="Mutabilis", version=__version__, docs_url=None, redoc_url=None, openapi_url="/api/openapi.json", lifespan=life)
    app.state.context = context
    for part in PARTS:  # their own routes: a router that is included builds them all anew, for a second at the first request
        app.router.routes.extend(part.router.routes)
    _errors(app)
    if (STATIC / "assets").is_dir():
        app.mount("/assets", _Hashed(directory=STATIC / "assets"))
    for place in PLACES:
        app.add_api_route(f"/{place}", _page, methods=["GET", "HEAD"], include_in_schema=False, response_class=Response)
        if place and "." not in place:
            app.add_api_route(f"/{place}/{{rest:path}}", _page, methods=["GET", "HEAD"], include_in_schema=False, response_class=Response)
    for name, kind in LOOSE.items():
        app.add_api_route(f"/{name}", _loose(name, kind), methods=["GET", "HEAD"], include_in_schema=False, response_class=Response)
    app.add_middleware(Guard)
    return app


async def _care_for(database: Database, ending: asyncio.Event, now_and_then: Sequence[Callable[[], None]]) -> None:
    """Every minute: what is to be done now and then, and what was written lately folded in; a copy a day, also for a server that is never stopped."""
    while not ending.is_set():
        await run_in_threadpool(keep_daily, database)
        for work in now_and_then:
            await run_in_threadpool(work)
        await run_in_threadpool(database.fold_in)
        with suppress(TimeoutError):
            await asyncio.wait_for(ending.wait(), FOLD_IN_S)


def forget_guests(context: Context) -> None:
    """Forget the guests whose day has come, and who ate longer ago than this kitchen keeps names; let go of photos that have had their days or
    were taken away yesterday. A book that cannot be written now is asked again in a minute."""
    now = context.clock.now()
    with suppress(StoreError):
        context.mornings.forget(date.fromtimestamp(now).isoformat())
        profile = context.profile()
        context.journal.forget_names(now - DAY_S * profile.names_days)
        if profile.photo_days is not None:
            context.photos.outlived(now - DAY_S * profile.photo_days)
        context.photos.let_go(datetime.fromtimestamp(now - DAY_S, UTC).isoformat(timespec="seconds"))


async def _mind_scale(context: Context, ending: asyncio.Event) -> None:
    """Look at the scale while a batch is weighed; what stands within its tolerance is taken."""
    hand = counter.ScaleHand(context)
    while not ending.is_set():
        with suppress(StoreError, CannotBe, NotKnown):  # what cannot be written down now is told to whoever touches it next
            await run_in_threadpool(hand.look)
        with suppress(TimeoutError):
            await asyncio.wait_for(ending.wait(), counter.LOOK_S)


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


def _loose(name: str, kind: str) -> Callable[[], Response]:
    """A file of the page that stands by itself."""

    def file() -> Response:
        return FileResponse(STATIC / name, media_type=kind, headers={"cache-control": "max-age=86400"})

    return file


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
    def told(request: Request, error: HTTPException) -> Response:
        if error.status_code == 404 and _wants_a_page(request):
            page = _page()
            page.status_code = 404 if page.status_code == 200 else page.status_code
            return page
        words = {404: "There is nothing at this address.", 405: "That cannot be done here."}
        plain = str(error.detail) if error.detail not in ("Not Found", "Method Not Allowed") else words[error.status_code]
        answer = problem(error.status_code, plain)
        answer.headers.update(error.headers or {})
        return answer

    @app.exception_handler(NotKnown)
    def unknown(request: Request, error: NotKnown) -> JSONResponse:
        return problem(404, f"There is no “{str(error.args[0])[:60]}” here.")

    @app.exception_handler(StoreError)
    def store(request: Request, error: StoreError) -> JSONResponse:
        return problem(422 if isinstance(error, NoBackup) else 503, str(error))

    @app.exception_handler(CannotBe)
    def cannot(request: Request, error: CannotBe) -> JSONResponse:
        return problem(422, f"{str(error)[:200].rstrip('.')}. Nothing was changed.")


def _wants_a_page(request: Request) -> bool:
    """A browser that went to an address of which nothing is known is shown a page of ours."""
    path = request.url.path
    return (
        request.method in ("GET", "HEAD")
        and not path.startswith(("/api/", "/assets/"))
        and "text/html" in request.headers.get("accept", "")
    )


def _words(kind: str, message: str) -> str:
    plain = {
        "greater_than_equal": "An amount cannot be below 0.",
        "finite_number": "An amount must be a number.",
        "float_parsing": "An amount must be a number.",
        "float_type": "An amount must be a number.",
        "less_than_equal": "That is more than a kitchen can hold (a tonne at most).",
        "missing": "Something is missing.",
        "string_too_long": "That text is too long.",
        "too_long": "That is too many.",
    }
    return plain.get(kind, f"{message}.")
