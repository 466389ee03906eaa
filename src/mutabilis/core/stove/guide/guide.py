"""What a batch needs next: everything that is shown of it at a moment, from its plan, its events and what the kitchen knows."""

from .learn import Learning


class Guide(Learning):
    """All of it, each part worked out when it is asked for."""
