"""Who may talk to the server, how much, and what a page of ours may do."""

import json
import logging
import re
import secrets
from collections.abc import Awaitable, Callable, Iterable, MutableMapping
from typing import Any

LARGEST_BODY = 2_000_000  # bytes
LARGEST_FILE = 10_000_000  # bytes, for a file that is read in
LARGEST_PHOTO = 20_000_000  # bytes, for a photo of a batch
LARGEST_BOOK = 500_000_000  # bytes, for a backup that is put back
LOG = logging.getLogger("mutabilis")
CSP = "; ".join(
    (
        "default-src 'none'", "script-src 'self'", "style-src 'self'", "img-src 'self' data:", "font-src 'self'", "connect-src 'self'",
        "manifest-src 'self'", "base-uri 'none'", "form-action 'none'", "frame-ancestors 'none'",
    )
)  # fmt: skip
HEADERS = {
    "content-security-policy": CSP,
    "x-content-type-options": "nosniff",
    "referrer-policy": "no-referrer",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
}

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]


class Guard:
    """ASGI middleware: the Host must be this machine, a write must come from our own page, a body has a ceiling."""

    def __init__(self, app: App) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request through, or answer it here."""
        if scope["type"] != "http":
            return await self.app(scope, receive, send)
        headers = {k.decode("latin-1").lower(): v.decode("latin-1") for k, v in scope["headers"]}
        host = headers.get("host", "")
        if not _is_here(host) or sum(k == b"host" for k, _ in scope["headers"]) > 1:
            return await _refuse(send, 421, "This server answers only on this machine (127.0.0.1).")
        if scope["method"] not in ("GET", "HEAD"):
            origin = headers.get("origin")
            if origin is not None and origin != f"http://{host}":
                return await _refuse(send, 403, "Only Mutabilis's own page may change anything here.")
            if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
                return await _refuse(send, 403, "Only Mutabilis's own page may change anything here.")
        length = headers.get("content-length", "0")
        most = {"/api/import": LARGEST_FILE, "/api/restore": LARGEST_BOOK, "/api/journal/log": LARGEST_BOOK}.get(
            scope["path"], LARGEST_PHOTO if scope["path"].endswith("/photos") else LARGEST_BODY
        )
        if not length.isdigit() or int(length) > most:
            what = {LARGEST_FILE: "a recipe file", LARGEST_BOOK: "a book", LARGEST_PHOTO: "a photo"}.get(most, "a batter")
            return await _refuse(send, 413, f"Larger than {what} can be ({most // 1_000_000} MB at most); nothing was changed.")
        seen = 0
        started = False

        async def counted() -> MutableMapping[str, Any]:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > most:
                raise _TooMuch
            return message

        head = scope["method"] == "HEAD"
        if head:  # answered as the same GET, without its body
            scope = {**scope, "method": "GET"}

        async def dressed(message: MutableMapping[str, Any]) -> None:
            nonlocal started
            if head and message["type"] == "http.response.body":
                message = {**message, "body": b""}
            if message["type"] == "http.response.start":
                started = True
                message["headers"] = [*message["headers"], *_missing(message["headers"], scope["path"])]
            await send(message)

        try:
            await self.app(scope, counted, dressed)
        except _TooMuch:
            if not started:
                await _refuse(send, 413, f"Larger than can be taken ({most // 1_000_000} MB at most); nothing was changed.")
        except Exception:
            # A fault of the program: told as one, with a number under which the log has it.
            number = secrets.token_hex(4)
            LOG.exception("fault %s at %s %s", number, scope["method"], scope["path"])
            if not started:
                await _refuse(send, 500, f"Something went wrong inside Mutabilis; what was saved before is safe. Quote fault {number}.")


class _TooMuch(Exception):
    """A body went over its ceiling while it came in."""


def _missing(have: Iterable[tuple[bytes, bytes]], path: str) -> list[tuple[bytes, bytes]]:
    """The headers that every answer bears and this one lacks."""
    names = {name.lower() for name, _ in have}
    wanted = {**HEADERS, "cache-control": "no-store"} if path.startswith("/api/") else HEADERS
    return [(k.encode(), v.encode()) for k, v in wanted.items() if k.encode() not in names]


def _is_here(host: str) -> bool:
    """Whether a Host header names this machine: a name of it, and a port where one is given.

    >>> [_is_here(h) for h in ("127.0.0.1:8765", "localhost", "[::1]:80", "127.0.0.1:", "localhost:99999", "127.0.0.1.example", "")]
    [True, True, True, False, False, False, False]
    """
    m = re.fullmatch(r"(127\.0\.0\.1|localhost|\[::1\])(?::(\d{1,5}))?", host, re.IGNORECASE | re.ASCII)
    return m is not None and (m[2] is None or 0 < int(m[2]) <= 65_535)


async def _refuse(send: Send, status: int, words: str) -> None:
    body = json.dumps({"error": words, "field": None}).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(body)).encode()),
        (b"cache-control", b"no-store"),
        *((k.encode(), v.encode()) for k, v in HEADERS.items()),
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
