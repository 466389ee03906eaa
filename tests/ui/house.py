"""A whole Mutabilis for a test or a picture: a demo book, a real server, Debian's Chromium cut off from the world."""

import os
import re
import signal
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Browser, sync_playwright

EXECUTABLE = "/usr/bin/chromium"
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
        self.process: subprocess.Popen[str] | None = None

    def start(self) -> "Server":
        command = [
            sys.executable,
            "-m",
            "mutabilis.cli",
            "serve",
            *(["--demo"] if self.demo else []),
            *([] if self.log else ["--no-log"]),
            "--database",
            str(self.book),
            "--port",
            str(self.port),
        ]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONUNBUFFERED": "1"})
        assert self.process.stdout
        said = self.process.stdout.readline()
        found = re.search(r"http://127\.0\.0\.1:(\d+)/", said)
        assert found, f"the server said: {said!r}"
        self.url, self.port = found[0], int(found[1])
        self._wait()
        return self

    def _wait(self) -> None:
        import time
        import urllib.request

        for _ in range(200):
            try:
                urllib.request.urlopen(f"{self.url}favicon.svg", timeout=2).close()
                return
            except OSError:
                time.sleep(0.05)
        raise AssertionError("the server did not come up")

    def stop(self, how: int = signal.SIGTERM) -> None:
        if self.process:
            self.process.send_signal(how)
            self.process.wait(10)
            if self.process.stdout:
                self.process.stdout.close()
            self.process = None


@contextmanager
def server(book: Path, log: bool = False) -> Iterator[Server]:
    """A started server over a book, stopped at the end; with the demo's `log` of six weeks where it is wanted."""
    one = Server(book, log=log).start()
    try:
        yield one
    finally:
        one.stop()


@contextmanager
def chromium() -> Iterator[Browser]:
    """A headless browser."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=EXECUTABLE, args=FLAGS)
        yield browser
        browser.close()
