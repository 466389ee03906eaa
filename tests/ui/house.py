"""A whole Mutabilis for a test or a picture: a demo book, a real server, Debian's Chromium cut off from the world."""

import json
import os
import re
import signal
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path

from playwright.sync_api import Browser, sync_playwright

EXECUTABLES = [Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")]  # the first needs half as long
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost",
]


class Server:
    """The server as a process of its own, that can be stopped, killed and started again on the same book."""

    def __init__(self, book: Path, port: int = 0, demo: bool = True, log: bool = False) -> None:
        self.demo, self.log = demo, log
        self.book = book
        self.port = port
        self.url = ""
        self.pid: int | None = None

    def start(self) -> "Server":
        told = self.book.parent / f"{self.book.name}.told"
        told.unlink(missing_ok=True)
        arguments = ["serve", "--database", str(self.book), "--port", str(self.port)]
        arguments += ["--demo"] if self.demo else []
        arguments += [] if self.log else ["--no-log"]
        hatchery = _hatchery()
        assert hatchery.stdin and hatchery.stdout
        hatchery.stdin.write(json.dumps([str(told), *arguments]) + "\n")
        hatchery.stdin.flush()
        self.pid = int(hatchery.stdout.readline())
        found = None
        for _ in range(1200):
            said = told.read_text() if told.exists() else ""
            if found := re.search(r"http://127\.0\.0\.1:(\d+)/", said):
                break
            assert self._alive(), f"the server said: {said!r}"
            time.sleep(0.05)
        assert found, "the server did not come up"
        self.url, self.port = found[0], int(found[1])
        self._wait()
        return self

    def _wait(self) -> None:
        for _ in range(400):
            try:
                urllib.request.urlopen(f"{self.url}favicon.svg", timeout=2).close()
                return
            except OSError:
                time.sleep(0.02)
        raise AssertionError("the server did not come up")

    def _alive(self) -> bool:
        try:
            os.kill(self.pid or 0, 0)
        except ProcessLookupError:
            return False
        return True

    def stop(self, how: int = signal.SIGTERM) -> None:
        if self.pid is None:
            return
        os.kill(self.pid, how)
        for _ in range(1000):
            if not self._alive():
                self.pid = None
                return
            time.sleep(0.01)
        raise AssertionError("the server did not end")


@cache
def _hatchery() -> subprocess.Popen[str]:
    """What servers come from, one for each process of tests; it ends when its input does."""
    return subprocess.Popen([sys.executable, "-m", "tests.ui.hatchery"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)


@contextmanager
def server(book: Path, log: bool = False) -> Iterator[Server]:
    """A started server over a book, stopped at the end; with the demo's `log` of six weeks where it is wanted."""
    one = Server(book, log=log).start()
    try:
        yield one
    finally:
        one.stop(signal.SIGKILL)  # nothing of it is wanted any more


@contextmanager
def chromium() -> Iterator[Browser]:
    """A headless browser."""
    with sync_playwright() as playwright:
        executable = next(x for x in EXECUTABLES if x.exists())
        browser = playwright.chromium.launch(executable_path=executable, args=FLAGS)
        yield browser
        browser.close()
