"""Who may talk to the server, how much, and what a page of ours may do."""

import json
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

LARGEST_BODY = 2_000_000  # bytes
LARGEST_FILE = 10_000_000  # bytes, for a file that is read in
HOSTS = ("127.0.0.1", "localhost", "[::1]")
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
        if _name(host) not in HOSTS:
            return await _refuse(send, 421, "This server answers only on this machine (127.0.0.1).")
        if scope["method"] not in ("GET", "HEAD"):
            origin = headers.get("origin")
            if origin is not None and origin != f"http://{host}":
                return await _refuse(send, 403, "Only Mutabilis's own page may change anything here.")
            if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
                return await _refuse(send, 403, "Only Mutabilis's own page may change anything here.")
        length = headers.get("content-length", "0")
        most = LARGEST_FILE if scope["path"] == "/api/import" else LARGEST_BODY
        if not length.isdigit() or int(length) > most:
            what = "a recipe file" if most == LARGEST_FILE else "a batter"
            return await _refuse(send, 413, f"Larger than {what} can be ({most // 1_000_000} MB at most); nothing was changed.")
        seen = 0

        async def counted() -> MutableMapping[str, Any]:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > most:
                raise ValueError("body over the limit")
            return message

        async def dressed(message: MutableMapping[str, Any]) -> None:
            if message["type"] == "http.response.start":
                have = {k.lower() for k, _ in message["headers"]}
                message["headers"] = [
                    *message["headers"],
                    *((k.encode(), v.encode()) for k, v in HEADERS.items() if k.encode() not in have),
                ]
            await send(message)

        await self.app(scope, counted, dressed)


def _name(host: str) -> str:
    return host.rsplit(":", 1)[0] if not host.endswith("]") else host


async def _refuse(send: Send, status: int, words: str) -> None:
    body = json.dumps({"error": words, "field": None}).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(body)).encode()),
        *((k.encode(), v.encode()) for k, v in HEADERS.items()),
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
