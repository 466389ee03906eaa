"""From a text as a cook writes it to the lines of a batter. A line that cannot be read is kept, marked, and stops nothing."""

import re
from collections.abc import Iterable
from dataclasses import dataclass, replace
from itertools import islice

from ..batter.batter import TURNING, BatterLine
from ..food.naming import states_of, words_of
from ..measures.amount import Amount, read_amount
from ..measures.numbers import ANY_NUMBER, value
from ..measures.profile import Profile
from ..measures.spoken import each_of, up_to, written
from .facts import ReadingFacts
from .identify import closed, identify
from .prose import Section, Told, foods_only_told, heading, set_aside
from .weights import Said, cap, drained, fixed, milled, portion, unsaid, weigh

LONGEST_LINE = 300  # letters that are read; a longer line is kept as it is and not read
MOST_LINES = 200
A_LITTLE = 30.0  # mL or g: two spoons
# A word that says how a thing is prepared, by the food with which this kitchen said so.
Prepared = frozenset[tuple[str, str]]

_PLATE = re.compile(
    r"[,;]?\s*\(?\b(?:(?:plus|and)\s+(?:some\s+|more\s+|extra\s+|a little\s+|a bit\s+)*)?(?:for|to)\s+(?:the\s+)?(?:pan|iron|griddle|girdle|bakestone|skillet|greas\w*|fry\w*|cook\w*|serv\w*|brush\w*|topping|drizzl\w*|sprinkl\w*|dust\w*|decorat\w*|garnish\w*)\b[^()]*\)?",
    re.IGNORECASE,
)
_OF_FRUIT = re.compile(
    rf"^(?:.*?\b)?(?P<what>juice|zest)(?:\s+and\s+(?P<too>juice|zest))?\s+(?:of|from)\s+(?P<n>{ANY_NUMBER})\s+(?:large |small |medium |unwaxed |organic |ripe )*(?P<fruit>lemon|lime|orange)s?\b",
    re.IGNORECASE,
)
_SQUEEZED_AFTER = re.compile(r",.*\b(?:squeezed|drained|wrung)\b", re.IGNORECASE)  # what stands before it is the raw weight
# "3 eggs, whites whipped stiff" is three whole eggs, their whites whipped; nothing but such words may follow.
_WHITES_OF = re.compile(
    r"^(?P<eggs>[^,;(]*\beggs?)\s*[,;(]\s*(?=.*\bwhites?\b)(?:(?:separated|the|their|with|and|yolks?|whites?|beaten|whipped|whisked|stiffly|softly|stiff|soft|peaks?|to|until|firm|kept|apart|lightly|form)\b[\s,;)]*)+$",
    re.IGNORECASE,
)
_ONLY_HALF = re.compile(
    r"^(?P<eggs>[^,;(]*\beggs?)\s*[,;(]\s*(?=.*\b(?:only|just|alone)\b)(?:just |only )?(?:the )?(?P<half>whites?|yolks?)(?: only| alone)?\s*\)?$",
    re.IGNORECASE,
)
_AMOUNT_FIRST = re.compile(r"\s*(?:[-*•–]\s*)?(?:\d|[½¼¾⅓⅔⅛])")
_TWO = re.compile(
    r"\s*(?:\+|\bplus\b|\band\b|,?\s*(?:mixed|soured|stirred|whisked|combined)?\s*(?:\bwith\b|\bw/))\s*(?<=[\s/])(?=(?:\d|[½¼¾⅓⅔⅛]|half an?\b|one\b|two\b|three\b|an?\s+(?:pinch|dash|tea|table|tsp|tbsp))\S*\s*\S)",
    re.IGNORECASE,
)
_TO_BE_JOINED = re.compile(
    r",?\s*\b(?:mixed|soured|stirred|whisked|combined|blended|topped|made)(?:\s+up)?(?:\s+to\s+an?\s+\w+)?\s*$", re.IGNORECASE
)


@dataclass(frozen=True, slots=True)
class _Pending:
    """A line whose weight hangs on others: `times` the weight of the line called `other`, or what a volume [mL] still lacks."""

    at: int
    times: float = 1.0
    other: str = ""
    volume_ml: float = 0.0


def read_lines(text: str, facts: ReadingFacts, profile: Profile, prepared: Prepared = frozenset()) -> tuple[BatterLine, ...]:
    """Read a recipe's ingredient list, one a line, 200 lines at most. `#` begins a comment; headings move what stands under them to
    the plate or into a dish of their own beside the batter; times, servings and instructions are set aside. `prepared`: words that this kitchen said are preparation."""
    lines: list[BatterLine] = []
    section: Section = "batter"
    side = ""
    headings: dict[int, BatterLine] = {}
    pending: list[_Pending] = []
    raws = text.translate({0: None, **TURNING}).splitlines()
    for n, raw in enumerate(raws):
        said = re.sub(r"(?:^| )#.*$", "", " ".join(raw[: 4 * LONGEST_LINE].split()))
        if not said:
            continue
        if len(lines) >= MOST_LINES:
            break
        if len(said) > LONGEST_LINE:
            lines.append(BatterLine(text=said[:LONGEST_LINE], problem=f"longer than {LONGEST_LINE} letters: not read", confidence="low"))
            continue
        told = facts.prose.tell(said, alone=bool(n) and not raws[n - 1].strip() and bool(_AMOUNT_FIRST.match("".join(raws[n + 1 : n + 2]))))
        if told.kind == "heading":
            section, side = told.section, told.side
            named = set_aside(heading(said, told, facts.prose))
            heard = foods_only_told(named, lines, facts.words)
            if heard != named:  # "walnut butter:" is heard too
                headings[len(lines)] = named.model_copy(update={"side": side})
                lines.append(set_aside(said))
            continue
        if told.kind == "aside" or section == "aside":
            lines.append(set_aside(said))
            continue
        opened, rest, extra = facts.prose.headed(said) or (Told("heading", section, side), said, False)
        if opened.section == "aside":
            lines.append(set_aside(said))
            continue
        for one in each_of(rest, facts.units):
            read, wait = _read(one, "plate" in (section, opened.section), facts, profile)
            pending += [replace(wait, at=len(lines))] if wait and read else []
            lines += [
                line.model_copy(
                    update={"text": said, "optional": line.optional or extra, "side": opened.side if line.where == "plate" else ""}
                )
                for line in read
            ]
    for wait in pending:
        lines[wait.at] = _up_to(lines, wait, facts) if wait.volume_ml else _as_much_as(lines, wait, facts)
    told_only = [
        foods_only_told(headings.get(at, line), lines, facts.words).model_copy(update={"text": line.text})
        if line.where == "aside"
        else line
        for at, line in enumerate(lines)
    ]
    return tuple(_known_words(line, prepared) for line in told_only[:MOST_LINES])


def read_as(text: str, ingredient: str, facts: ReadingFacts, profile: Profile) -> BatterLine:
    """One line read as a certain ingredient, where its name could be two things or was not known. NotKnown for an unknown id."""
    named = facts.ingredients[ingredient].name
    lines, _ = _one(" ".join(text.replace("\x00", "").split())[:LONGEST_LINE], False, facts, profile, ingredient)
    line = lines[0] if lines else BatterLine(text=text, problem="no amount given", confidence="low")
    note = "; ".join(x for x in (line.note, f"read as {named}, as you said") if x)
    return line.model_copy(update={"note": note[:500]})


def _known_words(line: BatterLine, prepared: Prepared) -> BatterLine:
    """The line without the words that this kitchen has said are preparation of just this food."""
    left = tuple(w for w in line.unread if (w, line.ingredient or "") not in prepared)
    return line if left == line.unread else line.model_copy(update={"unread": left})


def _read(text: str, on_plate: bool, facts: ReadingFacts, profile: Profile) -> tuple[list[BatterLine], _Pending | None]:
    """One line, or the two that stand in it: "1 cup oat drink + 1 tsp vinegar". "1 cup plus 2 tbsp flour" is one."""
    if (rest := up_to(text)) and (lines := _rest_of(text, *rest, on_plate, facts, profile)):
        return lines
    hidden = re.sub(r"\([^()]*\)", lambda m: "·" * len(m[0]), text)
    for joint in islice(_TWO.finditer(hidden), 2):
        first, second = text[: joint.start()], text[joint.end() :]
        if read_amount(first, facts.units).words and read_amount(second, facts.units).measures and read_amount(second, facts.units).words:
            first = _TO_BE_JOINED.sub("", first)
            both = [line for part in (first, second) for line in _one(part, on_plate, facts, profile)[0]]
            if all(line.known for line in both):
                return [line.model_copy(update={"text": text}) for line in both], None
    return _one(text, on_plate, facts, profile)


def _rest_of(
    text: str, food: str, amount: str, on_plate: bool, facts: ReadingFacts, profile: Profile
) -> tuple[list[BatterLine], _Pending] | None:
    """ "milk to make up to 2 cups": the line, and the volume that is to be filled."""
    full = read_amount(written(f"{amount} {food}", facts.units), facts.units)
    unit = full.measures[0].unit if full.measures else None
    ml = unit.millilitres(profile) if unit else None
    lines, _ = _one(f"{amount} {food}", on_plate, facts, profile)
    if not ml or len(lines) != 1 or not lines[0].ingredient:
        return None
    return [lines[0].model_copy(update={"text": text})], _Pending(0, volume_ml=ml * full.measures[0].high)


def _one(
    text: str, on_plate: bool, facts: ReadingFacts, profile: Profile, known: str | None = None
) -> tuple[list[BatterLine], _Pending | None]:
    plate = _PLATE.search(text)
    if known is None and (half := _ONLY_HALF.match(text)):
        lines, wait = _one(
            re.sub(r"eggs?$", f"egg {half['half'].rstrip('s')}s", half["eggs"], flags=re.IGNORECASE), on_plate, facts, profile
        )
        return [line.model_copy(update={"text": text}) for line in lines], wait
    if known is None and (whole := _WHITES_OF.match(text)):
        lines, wait = _one(f"{whole['eggs']}, separated", on_plate, facts, profile)
        return [line.model_copy(update={"text": text}) for line in lines], wait
    account = facts.clauses.account(written(text, facts.units))
    core = _PLATE.sub("", account.core).strip() if plate else account.core
    if known is None and (fruit := _OF_FRUIT.match(core)):
        return _of_fruit(text, fruit, facts), None
    amount = read_amount(core, facts.units)
    amount = replace(amount, optional=amount.optional or account.optional, to_taste=amount.to_taste or account.to_taste)
    # "3 tbsp butter, plus more for the pan" is of the batter; "butter for frying" and "30 g honey, to serve" are not.
    whole_plate = on_plate or (plate is not None and not re.match(r"[\s,;(]*(?:plus|and)\b", plate[0], re.IGNORECASE))
    place: dict[str, object] = {"where": "plate"} if whole_plate else {}
    if (meant := facts.names.little.get(amount.words.strip().lower())) and 0 < _size(amount, profile) <= A_LITTLE:
        amount = replace(amount, words=meant)
    if amount.problem:
        return [BatterLine.model_validate({"text": text, "problem": amount.problem, "confidence": "low", **place})], None
    states = states_of(" ".join((core, *(c for c, _ in account.finer))))
    others = tuple(account.others)
    named, beside = identify(amount, account, facts.words)
    if known is not None:
        named, beside = closed(named, beside, known)
    if not named.parts:
        hint = f"; did you mean {named.suggestion}?" if named.suggestion else ""
        what = amount.words.strip()[:80]
        problem = f"not known: “{what}”{hint}" if what else "no ingredient named"
        return [BatterLine.model_validate({"text": text, "problem": problem, "confidence": "low", **beside, **place})], None
    lines = _weighed(Said(text=text, amount=amount, named=named, states=states), whole_plate, facts, profile)
    extra: dict[str, object] = {"states": tuple(sorted(states)), "optional": amount.optional, **beside, **place}
    if others and known is None:
        extra |= {"alternative": next(iter(beside["maybe"]), None), "alternative_text": others[0][:200]}
    pending = _Pending(0, *amount.relation) if amount.relation else None
    return [line.model_copy(update=extra) for line in lines], pending


def _size(amount: Amount, profile: Profile) -> float:
    """How much is said [mL or g]; 0 of pieces."""
    return sum(m.high * (m.unit.millilitres(profile) or m.unit.g or 0.0) for m in amount.measures if m.unit)


def _of_fruit(text: str, fruit: re.Match[str], facts: ReadingFacts) -> list[BatterLine]:
    """ "zest and juice of 1 lemon": what one fruit gives, times their number."""
    lines = []
    for what in (fruit["what"], fruit["too"]):
        if what:
            id_, grams = facts.units.of_fruit[f"{what.lower()} {fruit['fruit'].lower()}"]
            lines.append(fixed(text, facts, id_, grams * value(fruit["n"]), 0.25, "low", f"one fruit taken as {grams:g} g"))
    return lines


def _weighed(said: Said, whole_plate: bool, facts: ReadingFacts, profile: Profile) -> list[BatterLine]:
    """The line, or the lines of a prepared thing, with their weights."""
    amount, named = said.amount, said.named
    total = sum(share for _, share in named.parts)
    per_piece = named.per_piece and any(m.unit is None for m in amount.measures)
    lines: list[BatterLine] = []
    for id_, share in named.parts:
        ingredient = facts.ingredients[id_]
        if amount.relation:
            line = BatterLine(
                text=said.text, ingredient=id_, confidence="medium", note="an amount by another line", problem="the other line is not there"
            )
        elif per_piece:
            low, high = (share * sum(getattr(m, end) for m in amount.measures) for end in ("low", "high"))
            line = fixed(said.text, facts, id_, (low + high) / 2, 0.1, "medium", named.note, (low, high))
        elif named.per_piece:
            whole = facts.ingredients["water"] if amount.grams is None else ingredient
            line = portion(weigh(said, whole, facts, profile), id_, share / total)
        elif share != 1.0:
            line = portion(weigh(said, facts.ingredients[named.ids[0]], facts, profile), id_, share)
        elif id_ in facts.units.drained and _SQUEEZED_AFTER.search(said.text):
            raw, stays = facts.units.drained[id_]
            line = drained(weigh(said, facts.ingredients[raw], facts, profile), id_, stays)
        else:
            line = milled(weigh(said, ingredient, facts, profile), said, facts, profile)
        lines.append(unsaid(said.text, ingredient) if whole_plate and line.problem == "no amount given" else line)
    return lines


def _as_much_as(lines: list[BatterLine], wait: _Pending, facts: ReadingFacts) -> BatterLine:
    """The weight of another line, or of all the flour, taken `times` times."""
    line, wanted = lines[wait.at], set(words_of(wait.other))
    rest = [x for i, x in enumerate(lines) if i != wait.at and x.ingredient]
    if wanted <= {"flour", "dry", "all"}:
        matches = [x for x in rest if facts.ingredients[x.ingredient or ""].is_flour]
    else:
        ids = set(facts.names.resolve(wait.other).ids)
        matches = [x for x in rest if x.ingredient in ids or wanted <= set(words_of(x.text))]
    if not matches or not sum(x.grams for x in matches):
        return line.model_copy(update={"ingredient": None, "problem": f"as much as “{wait.other[:60]}”: no such line"})
    return _bounded(
        line, ((wait.times * sum(getattr(x, k) for x in matches)) for k in ("grams", "low", "high")), f"by the weight of {wait.other[:60]}"
    )


def _up_to(lines: list[BatterLine], wait: _Pending, facts: ReadingFacts) -> BatterLine:
    """What a measuring jug still lacks: eggs and liquids on the lines right above stand in it already."""
    line = lines[wait.at]
    filled = 0.0
    for above in reversed(lines[: wait.at]):
        i = facts.ingredients.get(above.ingredient or "")
        if i is None or above.problem or above.where != line.where or not (i.group == "egg" or i.water_g >= 70 or i.group == "fat_oil"):
            break
        filled += above.grams / (1.03 if i.group == "egg" else i.grams_per_ml()[0])
    per_ml = facts.ingredients[line.ingredient or ""].grams_per_ml()[0]
    grams = max(0.0, wait.volume_ml - filled) * per_ml
    note = f"fills up to {wait.volume_ml:.0f} mL, of which {filled:.0f} mL stand on the lines above"
    return _bounded(line, (grams, 0.95 * grams, 1.05 * grams), note).model_copy(update={"confidence": "medium" if filled else "low"})


def _bounded(line: BatterLine, grams: Iterable[float], note: str) -> BatterLine:
    mean, low, high = grams
    return line.model_copy(update={"grams": cap(mean), "low": cap(low), "high": cap(high), "problem": "", "note": note[:500]})
