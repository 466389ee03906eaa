"""Which food a line is, once it is taken apart. A claim in a clause may pick the row that bears it out; a wish never does. What a
bracket or a comma would make of the name is taken only where nothing would be judged more leniently for it; else it stays open."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import TypedDict

from ..food.ingredients import Ingredient, milder
from ..food.naming import NOTHING, Named, Names, words_of
from ..measures.amount import Amount
from .clauses import Account
from .words import Words

# "almond or oat milk": a first thing without one of these heads borrows that of the second.
_HEADS = frozenset(
    [
        "milk",
        "drink",
        "flour",
        "syrup",
        "sugar",
        "oil",
        "yogurt",
        "starch",
        "powder",
        "vinegar",
        "meal",
        "butter",
        "cream",
        "juice",
        "chip",
        "extract",
        "puree",
        "cheese",
        "spread",
        "egg",
    ]
)


class Beside(TypedDict):
    """What stands beside the food of a line, by the names of the line's fields."""

    also: tuple[str, ...]
    maybe: tuple[str, ...]
    heard: tuple[str, ...]
    unread: tuple[str, ...]
    wished: tuple[str, ...]
    guessed: str


@dataclass(slots=True)
class _Line:
    name: str
    account: Account
    words: Words
    named: Named = NOTHING

    @property
    def names(self) -> Names:
        """The names of the facts at hand."""
        return self.words.names

    def resolve(self, text: str) -> Named:
        return self.names.resolve(text)


def identify(amount: Amount, account: Account, words: Words) -> tuple[Named, Beside]:
    """The food of a line and what stands beside it. `account` is used up."""
    line = _Line(amount.words, account, words)
    inner = " ".join(amount.notes)
    line.named = next(
        (n for text in (f"{line.name} {inner}" if inner else "", line.name) if text and (n := line.resolve(text)).parts), NOTHING
    )
    if not line.named.parts:
        line.named = line.resolve(line.name)
    if not line.named.parts:
        _treated(line)
    _alternatives(line)
    _ordinary(line)
    _wishes(line)
    _claims(line)
    _borrowed_heads(line)
    for content, foods in account.finer:
        _finer(line, content, foods)
    return line.named, _beside(line.named, account)


def _treated(line: _Line) -> None:
    """ "chocolate-coated almonds", "honey-roasted peanuts": the last food, and the first counts too."""
    tokens = [t for t in line.words.tokens(line.name) if t != "-"]
    for at in range(1, len(tokens) - 1):
        if tokens[at] in line.words.adding and (last := line.resolve(" ".join(tokens[at + 1 :]))).parts:
            first = line.words.scan(" ".join(tokens[:at]))
            if first.foods and not first.unknown:
                line.named = last
                line.account.also += first.foods
                line.account.heard += first.tokens
                return


def _alternatives(line: _Line) -> None:
    """ "almond or oat milk": almond milk. "milk or oat drink" stays milk."""
    a, named = line.account, line.named
    last = words_of(a.others[0]) if a.others else []
    if not last:
        return
    own = words_of(line.name)
    both = line.resolve(f"{line.name} {last[-1]}") if own[-1:] != last[-1:] else NOTHING
    if not named.parts:
        line.named = both if both.parts else named
    elif both.parts and both.parts != named.parts and last[-1] in _HEADS and own[-1] not in _HEADS:
        if milder(_rows(both, line), _rows(named, line)):
            a.maybe += both.ids
        else:
            a.maybe += named.ids
            line.named = both


def _ordinary(line: _Line) -> None:
    """ "oat milk or regular", "gluten-free flour (or regular)": the ordinary one, in place of the claim or of the first word, else of
    the head alone. What no name comes of stays open."""
    for kind in line.account.ordinary:
        named = [w for w in line.name.split() if not w.endswith("%")]
        plain = line.words.claim.sub(" ", " ".join(named)).split()
        rest = plain if len(plain) < len(named) else plain[1:]
        tries = (" ".join((kind, *rest)), " ".join(rest), " ".join((kind, *plain[-1:])), " ".join(plain[-1:]))
        found = next((n for t in tries if t and (n := line.resolve(t)).parts and not n.corrected), NOTHING)
        if found.parts:
            line.account.maybe += found.ids
        else:
            line.account.unread += kind.split()


def _wishes(line: _Line) -> None:
    """ "gluten-free oats if needed", "gluten-free oats, not certified": oats, and a question. A claim that is taken back and without which
    the food has no other name leaves the line open."""
    a, first = line.account, line.named
    if not (a.conditional or a.denied):
        return
    claims = [m[0] for m in line.words.claim.finditer(line.name)]
    if claims:
        bare = " ".join(line.words.claim.sub(" ", line.name).split())
        a.wished += [c.lower() for c in claims]
        for claim in claims:
            a.maybe += line.resolve(f"{claim} {bare}").ids
        plain = line.resolve(bare)
        if plain.parts and plain.parts != line.named.parts:
            a.maybe += line.named.ids
            line.named = plain
    if a.denied and first.parts and (claims or a.claims) and line.named is first:
        a.unread += [*claims, *a.claims]
    a.wished += a.claims
    a.claims = []


def _claims(line: _Line) -> None:
    if line.account.claims and (claimed := line.resolve(" ".join((*line.account.claims, line.name)))).parts:
        line.named = claimed


def _borrowed_heads(line: _Line) -> None:
    """ "oil, such as sunflower"; "milk (soy or cow)": the head word is the core's."""
    a = line.account
    head = (words_of(line.name) or [""])[-1]
    for other in a.headless:
        for word in [w for w in a.unread if w in words_of(other)]:
            finer = line.resolve(f"{word} {head}")
            if finer.parts and not finer.corrected:
                a.maybe += finer.ids
                a.unread.remove(word)
    for claim in a.claimed:  # "milk (dairy or non-dairy)": what a claim alone offers is another food, with allergens of its own
        a.maybe += [id_ for id_ in line.resolve(f"{claim} {head}").ids if id_ not in line.named.ids]


def _finer(line: _Line, content: str, foods: tuple[str, ...]) -> None:
    """ "milk, oat"; "flour (plain)"; "almonds (ground)"."""
    a, named = line.account, line.named
    both = (line.resolve(f"{line.name} {content}"), line.resolve(f"{content} {line.name}"))
    finer = max((n for n in both if n.parts and not n.corrected), key=lambda n: n.size, default=NOTHING)
    if not finer.parts or (not named.parts and foods):
        return  # "cricket flour, wheat": two things, not one name
    if finer.parts == named.parts:
        a.also = [f for f in a.also if f not in foods or f not in finer.ids]
        return
    beside = [line.names.ingredients[f] for f in foods]
    a.unread = [w for w in a.unread if w not in words_of(content)]
    if not named.parts or not milder(_rows(finer, line), [*_rows(named, line), *beside]):
        line.named = finer
        a.also = [f for f in a.also if f not in foods]
        return
    a.maybe += finer.ids
    a.also = [f for f in a.also if f not in foods or f not in finer.ids]
    if foods or line.words.scan(content).claims:
        a.wished.append(content)


def _rows(named: Named, line: _Line) -> list[Ingredient]:
    return [line.names.ingredients[id_] for id_ in named.ids]


def _beside(named: Named, a: Account) -> Beside:
    def kept(found: Iterable[str]) -> tuple[str, ...]:
        return tuple(x[:80] for x in dict.fromkeys(found) if x not in named.ids)[:20]

    return {
        "also": kept(a.also),
        "maybe": kept(a.maybe),
        "heard": tuple(dict.fromkeys(a.heard))[:20],
        "unread": tuple(w[:80] for w in dict.fromkeys(a.unread))[:20],
        "wished": tuple(w[:80] for w in dict.fromkeys(a.wished))[:8] if named.parts else (),
        "guessed": named.corrected[:80],
    }


def closed(named: Named, beside: Beside, ingredient: str) -> tuple[Named, Beside]:
    """The same line where the cook said which food it is: what was left open about its name is closed, the rest stays."""
    told = replace(named, parts=((ingredient, 1.0),), confidence="high", note="", per_piece=False, corrected="")
    return told, {**beside, "maybe": (), "wished": (), "guessed": "", "also": tuple(f for f in beside["also"] if f != ingredient)}
