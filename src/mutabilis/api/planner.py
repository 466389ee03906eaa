"""Planning apart from the server: one process for each day that is planned, ended when its wishes change; its last plan stays."""

import json
import subprocess
import sys
import threading
from collections.abc import Callable

from mutabilis.core.service.plan import Plan
from mutabilis.core.service.wishes import Service

SECONDS = 4.0


class Planner:
    """The processes that look for better plans, by day."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._at_work: dict[str, subprocess.Popen[str]] = {}
        self.failed: dict[str, str] = {}

    def ask(self, day: str, service: Service, keep: Callable[[Plan], bool], seconds: float = SECONDS) -> None:
        """Look for better plans of a day; `keep` gets each, and says whether more are wanted. Whatever was looked for before ends."""
        self.stop(day)
        work = subprocess.Popen(
            [sys.executable, "-m", "mutabilis.api.plan_worker", str(seconds)], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
        )  # fmt: skip
        with self._lock:
            self._at_work[day] = work
            self.failed.pop(day, None)
        threading.Thread(target=self._hear, args=(day, work, service, keep), daemon=True).start()

    def _hear(self, day: str, work: "subprocess.Popen[str]", service: Service, keep: Callable[[Plan], bool]) -> None:
        assert work.stdin is not None and work.stdout is not None
        heard = False
        try:
            work.stdin.write(service.model_dump_json(by_alias=True))
            work.stdin.close()
            for line in work.stdout:
                heard = True
                if not keep(Plan.model_validate(json.loads(line))):
                    break
        except (OSError, ValueError):
            heard = False
        finally:
            work.kill()
            work.wait()
            work.stdout.close()
            with self._lock:
                if self._at_work.get(day) is work:
                    del self._at_work[day]
                    if not heard:
                        self.failed[day] = "Planning stopped before it found anything; the last plan stays."

    def busy(self, day: str) -> bool:
        """Whether better plans of a day are being looked for."""
        with self._lock:
            return day in self._at_work

    def stop(self, day: str | None = None) -> None:
        """End the looking of a day, or all of it."""
        with self._lock:
            ended = [w for d, w in self._at_work.items() if day in (None, d)]
            self._at_work = {d: w for d, w in self._at_work.items() if day not in (None, d)}
        for work in ended:
            work.kill()
