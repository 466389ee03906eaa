"""Servers out of one process that has loaded the program: each is a process of its own with its own command line, and starts at once.

A line on standard input asks for one: a JSON list of the file that it writes to, and its arguments. The answer is its process id.
"""

import json
import os
import signal
import sys
from contextlib import suppress


def main() -> None:
    """Load what every server loads, then hatch whatever is asked for, until the input ends."""
    import mutabilis.api.server  # noqa: F401
    from mutabilis.cli import main as command
    from mutabilis.data import load_diagnosis, load_facts, load_service

    load_facts(), load_service(), load_diagnosis()
    signal.signal(signal.SIGCHLD, _reap)
    hatched = set()
    while line := sys.stdin.readline():
        out, *arguments = json.loads(line)
        if (pid := os.fork()) == 0:
            signal.signal(signal.SIGCHLD, signal.SIG_DFL)
            os.dup2(os.open(out, os.O_WRONLY | os.O_CREAT | os.O_TRUNC), 1)
            os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
            sys.exit(command(arguments))
        hatched.add(pid)
        print(pid, flush=True)
    for pid in hatched:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)  # whoever asked for it is gone


def _reap(*_: object) -> None:
    try:
        while os.waitpid(-1, os.WNOHANG)[0]:
            pass
    except ChildProcessError:
        pass


if __name__ == "__main__":
    main()
