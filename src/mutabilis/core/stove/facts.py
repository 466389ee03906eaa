"""What the Stove goes by."""

from dataclasses import dataclass

from ..adapt.facts import AdaptFacts
from ..recipe.facts import RecipeFacts
from .tables import StoveTables


@dataclass(frozen=True, kw_only=True, eq=False)
class StoveFacts(RecipeFacts, AdaptFacts):
    """The scale, judging by spread and by eye, the pace of hands."""

    stove: StoveTables
