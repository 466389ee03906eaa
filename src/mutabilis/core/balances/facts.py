"""What the balances and their warnings go by."""

from dataclasses import dataclass

from ..batter.facts import BatterFacts
from ..safety import Safety
from .marks import Tellings


@dataclass(frozen=True, kw_only=True, eq=False)
class BalanceFacts(BatterFacts):
    """What keeps a guest from harm, and how balances are told, beside the batter."""

    safety: Safety
    tellings: Tellings
