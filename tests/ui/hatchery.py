"""Servers out of one process that has loaded the program and the demo: each is a process of its own with its own command line, and starts at once.

A line on standard input asks for one: a JSON list of the file that it writes to, and its arguments. The answer is its process id.
"""

import json
import os
import shutil
import signal
import sys
import tempfile
from contextlib import suppress
from functools import cache
from pathlib import Path


def main() -> None:
    """Load what every server loads, then hatch whatever is asked for, until the input ends."""
    from mutabilis.cli import main as command

    signal.signal(signal.SIGCHLD, _reap)
    hatched = set()
    with tempfile.TemporaryDirectory() as folder:
        _demo(folder, log=False)
        while line := sys.stdin.readline():
            out, *arguments = json.loads(line)
            book = Path(arguments[arguments.index("--database") + 1])
            if "--demo" in arguments and not book.exists():
                shutil.copyfile(_demo(folder, log="--no-log" not in arguments), book)
            if (pid := os.fork()) == 0:
                signal.signal(signal.SIGCHLD, signal.SIG_DFL)
                os.dup2(os.open(out, os.O_WRONLY | os.O_CREAT | os.O_TRUNC), 1)
                os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
                code = command(arguments)
                sys.stdout.flush()
                os._exit(code)  # without tidying up what belongs to the one it came out of
            hatched.add(pid)
            print(pid, flush=True)
    for pid in hatched:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)  # whoever asked for it is gone


@cache
def _demo(folder: str, log: bool) -> Path:
    """A book with the demo in it, made by the program itself and asked what every page asks: what is built at a first request is built here, once."""
    from fastapi.testclient import TestClient

    from mutabilis.api.app import create_app
    from mutabilis.api.demo_book import fill_book
    from mutabilis.data import load_diagnosis, load_facts, load_service
    from mutabilis.store.database import Database

    facts = load_facts()
    load_service(), load_diagnosis()
    book = Path(folder) / f"demo-{log}.sqlite3"
    database = Database(book)
    app = create_app(facts, database)
    fill_book(app.state.context, facts, log)
    client = TestClient(app, base_url="http://127.0.0.1")
    client.get("/").raise_for_status()
    start = client.get("/api/start").json()
    asked = {"batter": start["version"]["batter"], "wishes": {"diets": start["diets"]}}
    client.post("/api/adapt", json=asked).raise_for_status()
    client.post("/api/card", json={"batter": asked["batter"], "name": "demo"}).raise_for_status()
    database.close_all()
    return book


def _reap(*_: object) -> None:
    try:
        while os.waitpid(-1, os.WNOHANG)[0]:
            pass
    except ChildProcessError:
        pass


if __name__ == "__main__":
    main()
