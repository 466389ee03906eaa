"""How much is tried: little and the same in the usual run, ten times as much and others each time in the long one (`make test-long`)."""

import os

LONG = os.environ.get("MUTABILIS_TESTS") == "long"


def many(here: int) -> int:
    """How many examples where the usual run tries `here`."""
    return 10 * here if LONG else here
