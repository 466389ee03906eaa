"""The ways in which a batter is made: as chosen on the day, else as its version says, else as usual; and the rest and the moment of the
leavening that follow from them."""

from ..analysis.analysis import Analysis
from ..batter.batter import Batter, Moment
from .parts import Ways


def resolved(ways: Ways, batter: Batter, stiff: bool = False) -> Ways:
    """The ways in which a batter is made: as chosen on the day, else as its version says, else as usual; `stiff` where a line asks for it."""
    return Ways(
        order=ways.order or batter.order or ("blender" if batter.blender else "two_bowls"), leavening=ways.leavening or batter.leavening,
        whites=ways.whites or batter.whites or ("stiff" if stiff else "soft"), bag=ways.bag,
    )  # fmt: skip


def rest_and_moment(a: Analysis, ways: Ways) -> tuple[float, Moment, str]:
    """The rest [min], when the leavening is wetted, and why. A leavening wetted before a rest that outlives it shortens the rest."""
    rest, lasts = a.bowl.rest_min, a.lift.latest_min
    spent = lasts is not None and lasts < rest
    if ways.leavening is None:
        return (rest, "hot", "It would be half spent by the end of the rest.") if spent else (rest, "dry", "It keeps through the rest.")
    if ways.leavening == "dry" and lasts is not None and spent:
        return float(int(lasts)), "dry", "The rest is cut short, as far as the lift lasts."
    return rest, ways.leavening, "As you chose."
