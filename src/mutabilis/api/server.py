"""Starting the server on this machine alone."""

import socket
import sys
import threading
from pathlib import Path

import uvicorn

from mutabilis.data.kitchen import load_kitchen
from mutabilis.demo import fill
from mutabilis.store.database import Database, StoreError

from .app import create_app

HOST = "127.0.0.1"


def serve(path: Path, port: int, demo: bool) -> int:
    """Open the book at `path` and serve it on 127.0.0.1 until interrupted. 2 with one line where that cannot be."""
    kitchen = load_kitchen(path.parent, diets=False)
    facts = kitchen.facts
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        app = create_app(facts, Database(path), kitchen.readings, kitchen.profile)
        if demo:
            fill(app.state.context.book, facts, app.state.context.larder)
        for fault in app.state.context.facts.faults:
            print(f"mutabilis: left out: {fault}", file=sys.stderr)
    except (StoreError, OSError) as error:
        print(f"mutabilis: {error}", file=sys.stderr)
        return 2
    free = _free(port)
    if free is None:
        print(f"mutabilis: ports {port} to {port + 19} are all taken", file=sys.stderr)
        return 2
    print(f"Mutabilis is at http://{HOST}:{free}/  (Ctrl-C ends it)", flush=True)
    threading.Thread(target=_warm, daemon=True).start()
    uvicorn.run(app, host=HOST, port=free, log_level="warning", server_header=False, timeout_graceful_shutdown=1)
    return 0


def _free(port: int) -> int | None:
    for candidate in range(port, port + 20):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((HOST, candidate))
                return candidate
            except OSError:
                continue
    return None


def _warm() -> None:
    """Load the solver while the page is still on its way: the first answer need not wait for it."""
    from mutabilis.core.swaps.highs import warm

    warm()
