"""From a text as a cook writes it to the lines of a batter. A line that cannot be read is kept, marked, and stops nothing."""

import re
from collections.abc import Callable

from .batter import RANGE, BatterLine
from .facts import Facts
from .ingredients import Confidence, Ingredient, least
from .naming import Named, words_of
from .quantities.amount import LARGEST_G, Amount, Measure, read_amount
from .quantities.numbers import ANY_NUMBER, value
from .quantities.units import US_TBSP_ML, US_TSP_ML, Profile

_HEADING = re.compile(r"^[^\d½¼¾⅓⅔⅛]*:\s*$")
_GROUND = re.compile(r"\b(ground|blended|blitzed|milled|whizzed|powdered|pulsed)\b", re.IGNORECASE)
_PLATE_HEADING = re.compile(r"\b(topping|serve|serving|sauce|glaze|pan|greas|frying|finish|drizzle)", re.IGNORECASE)
_PLATE = re.compile(
    r"[,;]?\s*\(?\b(?:(?:plus|and)\s+(?:some\s+|more\s+|extra\s+)?)?(?:for|to)\s+(?:the\s+)?(?:pan|iron|griddle|skillet|greas\w*|fry\w*|cook\w*|serv\w*|brush\w*|topping|drizzl\w*|sprinkl\w*|dust\w*|decorat\w*|garnish\w*)\b[^()]*\)?",
    re.IGNORECASE,
)
_OF_FRUIT = re.compile(rf"^(?:.*?\b)?(juice|zest)\s+(?:and\s+\w+\s+)?(?:of|from)\s+(?P<n>{ANY_NUMBER})\s+(?:large |small |medium )?(lemon|lime|orange)s?\b", re.IGNORECASE)  # fmt: skip
_PREPARATION = re.compile(r"^(?:such as\b|like\b|e\.?g\b|preferably\b|\w+(?:ed|ly|en)\b|at\b|room\b|cut\b|very\b|warm\b|cold\b|soft|stiff|whites?\b|yolks?\b|and\b|or\s+more\b|more\b|see\b|until\b|ground\b|from\b|ripe\b|plus\b|to\b|for\b|any\b|I\b|dry\b|free\b)", re.IGNORECASE)  # fmt: skip


def read_lines(text: str, facts: Facts, profile: Profile) -> tuple[BatterLine, ...]:
    """Read a recipe's ingredient list, one a line. `#` begins a comment; blank lines and headings are passed over."""
    lines: list[BatterLine] = []
    where_now = "batter"
    pending: list[tuple[int, float, str]] = []
    for raw in text.replace("\x00", "").splitlines():
        written = re.sub(r"(?:^|\s)#.*$", "", raw).strip()
        if not written:
            continue
        if _HEADING.match(written):
            where_now = "plate" if _PLATE_HEADING.search(written) else "batter"
            continue
        read, relation = _read(written[:2000], facts, profile)
        if relation and read:
            pending.append((len(lines), *relation))
        for line in read:
            lines.append(line.model_copy(update={"where": "plate"}) if where_now == "plate" else line)
    for at, times, other in pending:
        lines[at] = _as_much_as(lines[at], times, other, lines, at, facts)
    return tuple(lines)


def read_as(text: str, ingredient: str, facts: Facts, profile: Profile) -> BatterLine:
    """One line read as a certain ingredient, where its name could be two things or was not known. KeyError for an unknown id."""
    named = facts.ingredients[ingredient].name
    lines, _ = _one(text.replace("\x00", "").strip()[:2000], facts, profile, Named(((ingredient, 1.0),), "high"))
    line = lines[0] if lines else BatterLine(text=text, problem="no amount given", confidence="low")
    note = "; ".join(x for x in (line.note, f"read as {named}, as you said") if x)
    return line.model_copy(update={"note": note[:500]})


_TWO = re.compile(
    r"\s*(?:\+|\bplus\b|\band\b|,?\s*(?:mixed|soured|stirred|whisked|combined)?\s*\bwith\b)\s+(?=(?:\d|[½¼¾⅓⅔⅛]|half an?\b|one\b|two\b|three\b|an?\s+(?:pinch|dash|tea|table|tsp|tbsp))\S*\s*\S)",
    re.IGNORECASE,
)


def _read(text: str, facts: Facts, profile: Profile) -> tuple[list[BatterLine], tuple[float, str] | None]:
    """One line, or the two that stand in it: "1 cup oat drink + 1 tsp vinegar". "1 cup plus 2 tbsp flour" is one."""
    for joint in _TWO.finditer(re.sub(r"\([^()]*\)", lambda m: "·" * len(m[0]), text)):
        first, second = text[: joint.start()], text[joint.end() :]
        if read_amount(first, facts.units).words and read_amount(second, facts.units).measures and read_amount(second, facts.units).words:
            both = [line for part in (first, second) for line in _one(part, facts, profile)[0]]
            if all(line.ingredient and not line.problem for line in both):
                return [line.model_copy(update={"text": text}) for line in both], None
    return _one(text, facts, profile)


def _one(text: str, facts: Facts, profile: Profile, known: Named | None = None) -> tuple[list[BatterLine], tuple[float, str] | None]:
    plate = _PLATE.search(text)
    body = _PLATE.sub("", text).strip() if plate else text
    amount = read_amount(body, facts.units)
    if known is None and (fruit := _OF_FRUIT.match(body)):
        id_, grams = facts.units.of_fruit[f"{fruit[1].lower()} {fruit[3].lower()}"]
        return [_line(text, facts, id_, grams * value(fruit["n"]), 0.25, "low", f"one fruit taken as {grams:g} g")], None
    if amount.problem:
        return [BatterLine(text=text, problem=amount.problem, confidence="low")], None
    named, alternative, open_text = _name(amount, facts)
    if known is not None:
        named, alternative, open_text = Named(known.parts, known.confidence, "", named.states), None, ""
    # "3 tbsp butter, plus more for the pan" is of the batter; "butter for frying" and "30 g honey, to serve" are not.
    whole_plate = plate is not None and not re.match(r"[\s,;(]*(?:plus|and)\b", plate[0], re.IGNORECASE)
    if not named.parts:
        hint = f"; did you mean {named.suggestion}?" if named.suggestion else ""
        what = amount.words.strip()[:80]
        return [BatterLine(text=text, problem=(f"not known: “{what}”{hint}" if what else "no ingredient named"), confidence="low")], None
    lines: list[BatterLine] = []
    per_piece = named.per_piece and any(m.unit is None for m in amount.measures)
    for id_, share in named.parts:
        ingredient = facts.ingredients[id_]
        if amount.relation:
            line = BatterLine(
                text=text,
                ingredient=id_,
                confidence="medium",
                note="an amount by another line",
                problem="the other line is not there",
            )
        elif per_piece:
            count = [sum(getattr(m, end) for m in amount.measures) for end in ("low", "high")]
            line = _line(
                text,
                facts,
                id_,
                share * sum(count) / 2,
                0.1,
                "medium",
                named.note,
                (share * count[0], share * count[1]),
            )
        elif named.per_piece:
            total = sum(s for _, s in named.parts)
            line = _weigh(text, amount, facts.ingredients["water"] if amount.grams is None else ingredient, named, facts, profile)
            line = _portion(line, id_, share / total)
        elif share != 1.0:
            line = _portion(_weigh(text, amount, facts.ingredients[named.parts[0][0]], named, facts, profile), id_, share)
        else:
            line = _weigh(text, amount, ingredient, named, facts, profile)
            line = _milled(line, text, amount, named, facts, profile)
        if whole_plate and line.problem == "no amount given":
            line = _unsaid(text, ingredient)
        extra: dict[str, object] = {"states": tuple(sorted(named.states)), "optional": amount.optional}
        if whole_plate:
            extra["where"] = "plate"
        if open_text:
            extra["alternative"], extra["alternative_text"] = alternative, open_text[:200]
        lines.append(line.model_copy(update=extra))
    return lines, amount.relation


def _name(amount: Amount, facts: Facts) -> tuple[Named, str | None, str]:
    resolve: Callable[[str], Named] = facts.names.resolve
    words, inner = amount.words, " ".join(amount.notes)
    alternative = amount.alternative
    for note in amount.notes:
        if note.lower().startswith("or ") and not alternative:
            alternative, inner = note[3:], ""
    tries: list[str] = []
    if alternative:
        last = words_of(alternative)
        if len(last) > 1 and len(words_of(words)) == 1:
            tries.append(f"{words} {last[-1]}")
    if inner:
        tries.append(f"{words} {inner}")
    tries.append(words)
    head, comma, tail = words.partition(",")
    # What follows a comma is preparation only where it reads like one; "flour, cricket" is not flour.
    if comma and _PREPARATION.match(tail.strip()):
        if inner:
            tries.append(f"{head} {inner}")
        tries.append(head)
    named = Named((), "low")
    for phrase in tries:
        found = resolve(phrase)
        if found.parts:
            named = found
            break
        named = found if not named.suggestion else named
    all_states = resolve(f"{words} {inner}").states
    named = Named(named.parts, named.confidence, named.note, named.states | all_states, named.per_piece, named.suggestion)
    other = resolve(alternative) if alternative else None
    other_id = other.parts[0][0] if other and other.parts else None
    return named, other_id, alternative or ""


def _weigh(text: str, amount: Amount, ingredient: Ingredient, named: Named, facts: Facts, profile: Profile) -> BatterLine:
    base = {"text": text, "ingredient": ingredient.id, "note": named.note}
    if amount.grams:
        low, high = amount.grams
        if high > low:
            base["note"] = "; ".join(x for x in (named.note, RANGE) if x)
        return _within(
            BatterLine(
                **base,
                grams=_cap((low + high) / 2),
                low=_cap(max(0.0, low - 1)),
                high=_cap(high + 1),
                confidence=named.confidence,
            ),
            high,
        )
    if not amount.measures:
        return _no_amount(base, amount, ingredient, named)
    low = high = grams = said = 0.0
    confidence: Confidence = named.confidence
    notes = [named.note] if named.note else []
    if any(m.high > m.low for m in amount.measures):
        notes.append(RANGE)
    for measure in amount.measures:
        got = _grams(measure, ingredient, named, facts, profile)
        if got is None:
            return BatterLine(
                **base,
                problem=f"how much is one {measure.unit.key if measure.unit else 'piece'} of {ingredient.name}?"[:200],
                confidence="low",
            )
        one, spread, sure, note = got
        low += one * measure.low * (1 - spread)
        high += one * measure.high * (1 + spread)
        said += one * measure.high
        grams += one * (measure.low + measure.high) / 2
        confidence = least(confidence, sure)
        if note:
            notes.append(note)
    line = BatterLine(
        text=text,
        ingredient=ingredient.id,
        grams=_cap(grams),
        low=_cap(max(0, low)),
        high=_cap(high),
        confidence=confidence,
        note="; ".join(dict.fromkeys(notes))[:500],
    )
    return _within(line, said)


def _grams(
    measure: Measure, ingredient: Ingredient, named: Named, facts: Facts, profile: Profile
) -> tuple[float, float, Confidence, str] | None:
    """Grams of one unit, its relative spread, how sure, and a word to the cook."""
    unit = measure.unit
    heap, heap_spread = (measure.heap.times, measure.heap.spread) if measure.heap else (1.0, 0.0)
    if unit is None:
        return _piece(measure, ingredient, facts, profile)
    if unit.g is not None and unit.kind == "mass":
        return unit.g, 0.01, "high", ""
    if unit.kind == "piece":
        if ingredient.unit_name == unit.key and ingredient.unit_g:
            return (
                ingredient.unit_g * heap,
                max(unit.spread, heap_spread),
                "medium",
                f"a {unit.key} of it taken as {ingredient.unit_g:g} g",
            )
        if unit.ml is not None:
            return unit.ml * ingredient.grams_per_ml()[0], unit.spread, "low", f"a {unit.key} taken as {unit.ml:g} mL"
        if unit.g is None:
            return None
        return (
            unit.g * heap,
            max(unit.spread, heap_spread),
            "low" if unit.guess or unit.spread > 0.2 else "medium",
            f"a {unit.key} taken as {unit.g:g} g",
        )
    ml = unit.millilitres(profile)
    assert ml is not None
    density, sure = _density(unit.key, ingredient)
    scoop, note = 1.0, ""
    spread = max(unit.spread, 0.03 if ingredient.water_g > 50 or ingredient.fat_g > 95 else 0.08)
    if ingredient.is_flour and unit.key == "cup":
        scooped = "scooped" in named.states or (profile.flour == "scooped" and "spooned" not in named.states)
        scoop = 1.2 if scooped else 1.0
        spread = 0.15 if profile.flour == "unknown" and not scooped else 0.10
        note = "scooped: a fifth more" if scooped else ""
    if unit.guess:
        sure, note = least(sure, "low"), f"a bare {unit.key} taken as {ml:g} mL"
    if unit.spread >= 0.4:
        sure = least(sure, "low")
    if heap_spread:
        sure = least(sure, "medium")
    sure = least(sure, "medium") if ingredient.is_flour else sure
    return ml * density * heap * scoop, spread + heap_spread, sure, note


def _density(key: str, ingredient: Ingredient) -> tuple[float, Confidence]:
    """Density [g/mL] for the measure at hand: a spoon packs otherwise than a cup."""
    if key in ("tbsp", "dsp", "spoon") and ingredient.tbsp_g:
        return ingredient.tbsp_g / US_TBSP_ML, ingredient.confidence
    if key in ("tsp", "pinch", "dash", "smidgen", "dsp", "drop") and (ingredient.tsp_g or ingredient.tbsp_g):
        grams, ml = (ingredient.tsp_g, US_TSP_ML) if ingredient.tsp_g else (ingredient.tbsp_g, US_TBSP_ML)
        assert grams is not None
        return grams / ml, ingredient.confidence
    return ingredient.grams_per_ml()


def _piece(measure: Measure, ingredient: Ingredient, facts: Facts, profile: Profile) -> tuple[float, float, Confidence, str] | None:
    if ingredient.group == "egg" and ingredient.unit_g:
        sizes = facts.units.egg_size[profile.eggs]
        size = measure.size or "large"
        whole = ingredient.id in ("egg", "egg_white", "egg_yolk")
        grams = ingredient.unit_g * (sizes[size] / 50.0 if whole else 1.0)
        return (
            grams,
            0.1,
            "high" if whole else "medium",
            f"{size.replace('_', ' ')}, {grams:.0f} g each" if whole else "",
        )
    if ingredient.unit_g and ingredient.unit_name not in ("scoop", "pinch", "stick", "spray"):
        factor = facts.units.fruit_size.get(measure.size or "medium", 1.0)
        return ingredient.unit_g * factor, 0.2, "medium", f"one taken as {ingredient.unit_g * factor:.0f} g"
    if ingredient.unit_g and ingredient.unit_name in ("scoop", "stick"):
        return ingredient.unit_g, 0.15, "low", f"one taken as a {ingredient.unit_name} of {ingredient.unit_g:g} g"
    return None


def _no_amount(base: dict[str, str], amount: Amount, ingredient: Ingredient, named: Named) -> BatterLine:
    if ingredient.group in ("salt", "flavour", "intense_sweetener"):
        grams = 0.308 * ingredient.grams_per_ml()[0]
        return BatterLine(
            text=base["text"],
            ingredient=ingredient.id,
            grams=grams,
            low=0,
            high=grams * 4,
            confidence="low",
            note="no amount given: counted as a pinch",
        )
    if ingredient.group in ("fat_oil", "fat_solid") and amount.to_taste:
        return BatterLine(
            text=base["text"],
            ingredient=ingredient.id,
            grams=5,
            low=0,
            high=15,
            confidence="low",
            note="no amount given: counted as a teaspoon",
        )
    return BatterLine(**base, problem="no amount given", confidence="low")


def _unsaid(text: str, ingredient: Ingredient) -> BatterLine:
    """What meets the batter on the pan or the plate without an amount: a film of fat, or a spoon of topping."""
    grams = 5.0 if ingredient.group in ("fat_oil", "fat_solid") else 20.0
    return BatterLine(
        text=text,
        ingredient=ingredient.id,
        grams=grams,
        low=0,
        high=3 * grams,
        confidence="low",
        note=f"no amount given: counted as {grams:g} g",
        where="plate",
    )


def _line(
    text: str,
    facts: Facts,
    id_: str,
    grams: float,
    spread: float,
    sure: Confidence,
    note: str,
    bounds: tuple[float, float] | None = None,
) -> BatterLine:
    low, high = bounds or (grams, grams)
    return BatterLine(
        text=text, ingredient=id_, grams=_cap(grams), low=_cap(low * (1 - spread)), high=_cap(high * (1 + spread)),
        confidence=least(sure, facts.ingredients[id_].confidence), note=note[:500],
    )  # fmt: skip


def _milled(line: BatterLine, text: str, amount: Amount, named: Named, facts: Facts, profile: Profile) -> BatterLine:
    """Oats ground to flour: measured as oats, used as flour."""
    if not _GROUND.search(text):
        return line
    whole = next((k for k, v in facts.names.milled.items() if line.ingredient in (k, v)), None)
    if whole is None or not re.search(r"\boats\b", text, re.IGNORECASE):
        return line
    measured = _weigh(text, amount, facts.ingredients[whole], named, facts, profile)
    return measured.model_copy(update={"ingredient": facts.names.milled[whole], "note": "measured before it was ground"})


def _portion(line: BatterLine, id_: str, share: float) -> BatterLine:
    return line.model_copy(
        update={
            "ingredient": id_,
            "grams": line.grams * share,
            "low": line.low * share,
            "high": line.high * share,
            "confidence": least(line.confidence, "medium"),
        }
    )


def _as_much_as(line: BatterLine, times: float, other: str, lines: list[BatterLine], at: int, facts: Facts) -> BatterLine:
    """The weight of another line, or of all the flour, taken `times` times."""
    wanted = set(words_of(other))
    if wanted <= {"flour", "dry", "all"}:
        matches = [x for i, x in enumerate(lines) if i != at and x.ingredient and facts.ingredients[x.ingredient].is_flour]
    else:
        named = facts.names.resolve(other)
        ids = {p for p, _ in named.parts}
        matches = [x for i, x in enumerate(lines) if i != at and x.ingredient and (x.ingredient in ids or wanted <= set(words_of(x.text)))]
    if not matches or not sum(x.grams for x in matches):
        return line.model_copy(update={"ingredient": None, "problem": f"as much as “{other[:60]}”: no such line"})
    grams, low, high = (times * sum(getattr(x, k) for x in matches) for k in ("grams", "low", "high"))
    return line.model_copy(
        update={
            "grams": _cap(grams),
            "low": _cap(low),
            "high": _cap(high),
            "problem": "",
            "note": f"by the weight of {other[:60]}",
        }
    )


def _cap(grams: float) -> float:
    return min(round(grams, 4), LARGEST_G)


def _within(line: BatterLine, high: float) -> BatterLine:
    if high > LARGEST_G:
        return BatterLine(text=line.text, problem="more than 100 kg", confidence="low")
    return line
