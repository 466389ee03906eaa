"""The process that plans: wishes on standard input, a plan a line on standard output, the best last."""

import json
import sys
import time

from mutabilis.core.service.planning import plans
from mutabilis.core.service.solve import Effort, ready, workers_for
from mutabilis.core.service.wishes import Service
from mutabilis.data import load_service


def main() -> None:
    """Plan until the seconds of the first argument are over."""
    service = Service.model_validate_json(sys.stdin.read())
    ready()
    end = time.monotonic() + float(sys.argv[1])
    for plan in plans(service, load_service(), Effort(left=lambda: end - time.monotonic(), workers=workers_for(service))):
        sys.stdout.write(json.dumps(plan.told()) + "\n")
        sys.stdout.flush()


if __name__ == "__main__":
    main()
