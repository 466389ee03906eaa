"""The command line as a terminal sees it, without a process for each call."""

import io
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout

from mutabilis.cli import main


def run(*args: str, stdin: str = "") -> subprocess.CompletedProcess[str]:
    """A command with its input: the status, what it printed, and what it said of errors."""
    out, err, was = io.StringIO(), io.StringIO(), sys.stdin
    sys.stdin = io.TextIOWrapper(io.BytesIO(stdin.encode()), encoding="utf-8")
    try:
        with redirect_stdout(out), redirect_stderr(err):
            status = main(args)
    except SystemExit as ended:
        status = int(ended.code or 0)
    finally:
        sys.stdin = was
    return subprocess.CompletedProcess(args, status, out.getvalue(), err.getvalue())


def run_apart(*args: str, stdin: str = "") -> subprocess.CompletedProcess[str]:
    """The same as a process of its own."""
    return subprocess.run([sys.executable, "-m", "mutabilis.cli", *args], input=stdin, capture_output=True, text=True, timeout=120)
