"""Starting the server on this machine alone: one for each book."""

import gc
import signal
import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import FrameType

import uvicorn

from mutabilis.store.database import Database, StoreError
from mutabilis.store.kitchen import load_kitchen
from mutabilis.store.lock import BookLock

from .app import create_app
from .demo_book import fill_book
from .hub import Hub

HOST = "127.0.0.1"


def serve(path: Path, port: int, demo: bool, log: bool = True) -> int:
    """Open the book at `path` and serve it on 127.0.0.1 until interrupted; port 0 takes any that is free. The demo brings a `log` of six weeks. 2 with one line where the book
    is open already, the port is taken, or either cannot be used."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with BookLock(path, "it is being opened") as lock:
            return _serve(path, port, demo, log, lock)
    except (StoreError, OSError) as error:
        print(f"mutabilis: {error}", file=sys.stderr)
        return 2


def _serve(path: Path, port: int, demo: bool, log: bool, lock: BookLock) -> int:
    kitchen = load_kitchen(path.parent, diets=False)
    database = Database(path)
    with socket.socket() as door:
        door.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            door.bind((HOST, port))
        except (OSError, OverflowError):
            database.close()
            print(f"mutabilis: port {port} is taken by another program; choose one with --port", file=sys.stderr)
            return 2
        address = f"http://{HOST}:{door.getsockname()[1]}/"
        app = create_app(kitchen.facts, database, kitchen.readings, kitchen.profile)
        if demo and not database.damage:
            fill_book(app.state.context, kitchen.facts, log)
        for fault in app.state.context.facts.faults:
            print(f"mutabilis: left out: {fault}", file=sys.stderr)
        if database.damage:
            print(f"mutabilis: the book is damaged and is opened for reading alone: {database.damage}", file=sys.stderr)
        lock.say(f"Mutabilis runs at {address}")
        print(f"Mutabilis is at {address}  (Ctrl-C ends it)", flush=True)
        gc.freeze()  # the facts never go: looking through them for garbage held an answer up by 0.2 s now and then
        threading.Thread(target=_warm, daemon=True).start()
        # What is asked already is answered; streams end by themselves.
        config = uvicorn.Config(app, log_level="warning", server_header=False, timeout_graceful_shutdown=10)
        try:
            _Server(config, app.state.context.hub).run(sockets=[door])
        finally:
            database.close_all()
    return 0


class _Server(uvicorn.Server):
    """A server that ends in good order when it is told to: whoever started it tidies up after it, which the usual way does not let them."""

    def __init__(self, config: uvicorn.Config, hub: Hub) -> None:
        super().__init__(config)
        self.hub = hub

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """End, the streams with it."""
        self.hub.ending = True
        super().handle_exit(sig, frame)

    @contextmanager
    def capture_signals(self) -> Iterator[None]:
        """Interrupt and termination end the serving, and nothing else."""
        before = {s: signal.signal(s, self.handle_exit) for s in (signal.SIGINT, signal.SIGTERM)}
        try:
            yield
        finally:
            for s, handler in before.items():
                signal.signal(s, handler)


def _warm() -> None:
    """Load the solver while the page is still on its way: the first answer need not wait for it."""
    from mutabilis.core.adapt.solver import warm

    warm()
