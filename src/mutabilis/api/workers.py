"""Work that takes its time: done in a few threads of its own, so that it holds up nothing else, and given up where it takes too long."""

from collections.abc import Callable
from typing import TypeVar

import anyio
from anyio import CapacityLimiter
from anyio.lowlevel import RunVar
from anyio.to_thread import run_sync

from mutabilis.core.errors import CannotBe

T = TypeVar("T")
AT_ONCE = 2  # heavy things at a time: what a small machine has cores for; taps never wait behind them
SECONDS = 20.0
_LIMITER: RunVar[CapacityLimiter] = RunVar("_heavy")


async def apart(work: Callable[[], T], seconds: float = SECONDS) -> T:
    """The result of `work`, done apart from the server's own. CannotBe where it took longer than it may [s]."""
    limiter = _LIMITER.get(None)
    if limiter is None:
        limiter = CapacityLimiter(AT_ONCE)
        _LIMITER.set(limiter)
    try:
        with anyio.fail_after(seconds):
            return await run_sync(work, abandon_on_cancel=True, limiter=limiter)
    except TimeoutError as error:
        raise CannotBe(f"this took longer than {seconds:.0f} seconds and was given up") from error
