"""What a line leaves open, as questions that one touch answers; and the line as it is after the answer."""

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..batter.batter import BatterLine
from ..errors import CannotBe
from ..food.ingredients import Ingredient, milder
from ..measures.profile import Profile
from .facts import ReadingFacts
from .reading import read_as

Kind = Literal["word", "which", "wish", "spelling", "beside"]


@dataclass(frozen=True, slots=True)
class Reply:
    """One answer: what it is sent as, and its words."""

    key: str
    label: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """A question about a line. `about`: the word, or the claim, or the food in question. Where `search` is set an ingredient may be
    named as well; where `pack` is set a yes is only as good as the reading of the pack."""

    kind: Kind
    about: str
    text: str
    choices: tuple[Reply, ...]
    search: bool = False
    pack: str = ""


class Told(BaseModel):
    """An answer to a question of a line: its kind, what it is about, and the choice; `ingredient` where one was named."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    kind: Kind
    about: Annotated[str, Field(max_length=80)]
    choice: Annotated[str, Field(max_length=80)] = ""
    ingredient: Annotated[str | None, Field(max_length=80)] = None


def questions_of(line: BatterLine, facts: ReadingFacts) -> tuple[Question, ...]:
    """What a line asks, the weightiest first. Alternatives and wishes are asked about only where some diet could judge them apart."""
    if line.where == "aside":
        return ()
    i = facts.ingredients.get(line.ingredient or "")
    found: list[Question] = []
    if line.guessed and i is not None:
        found.append(
            Question(kind="spelling", about=line.guessed, text=f"Did you mean {i.short}?", choices=(Reply("yes", i.short),), search=True)
        )
    if i is not None and (which := _which(line, i, facts)):
        found.append(which)
    for word in line.unread:
        found.append(
            Question(kind="word", about=word, text=f"What is “{word}”?", choices=(Reply("prepared", "How it is prepared"),), search=True)
        )
    if i is not None and line.wished and not line.maybe and (wish := _wish(line, i, facts)):
        found.append(wish)
    return tuple(found)


def beside_of(line: BatterLine, facts: ReadingFacts) -> tuple[Reply, ...]:
    """The foods that a line counts beside its own; each can be struck."""
    return tuple(Reply(id_, facts.ingredients[id_].short) for id_ in line.also)


def _which(line: BatterLine, i: Ingredient, facts: ReadingFacts) -> Question | None:
    others = [facts.ingredients[m] for m in line.maybe]
    if not any(milder([i], [o]) or milder([o], [i]) for o in others):
        return None
    names = [x.short for x in (i, *others)]
    text = f"Which one: {', '.join(names[:-1])} or {names[-1]}?"
    return Question(kind="which", about=i.id, text=text, choices=tuple(Reply(x.id, x.short) for x in (i, *others)))


def _wish(line: BatterLine, i: Ingredient, facts: ReadingFacts) -> Question | None:
    claim = line.wished[0]
    borne_out = _bearing(line, i, facts)
    if borne_out is not None and borne_out.id == i.id:
        return None
    text = f"Is it the {claim.replace(' free', '-free')} one?"
    return Question(
        kind="wish",
        about=claim,
        text=text,
        choices=(Reply("yes", "Yes, the pack says so"), Reply("no", "No")),
        pack="" if borne_out else i.id,
    )


def _bearing(line: BatterLine, i: Ingredient, facts: ReadingFacts) -> Ingredient | None:
    """The row that bears out what is wished of a line; None where there is none, and only a pack can tell."""
    named = facts.names.resolve(f"{' '.join(line.wished)} {i.short}")
    return facts.ingredients[named.ids[0]] if len(named.parts) == 1 and not named.corrected else None


def answered(line: BatterLine, told: Told, facts: ReadingFacts, profile: Profile) -> BatterLine:
    """The line after an answer. CannotBe where it asks no such question, or the answer is none of its choices."""
    if told.ingredient is not None and told.ingredient not in facts.ingredients:
        raise CannotBe("there is no such ingredient")
    if told.kind == "beside" and told.about in line.also:
        return line.model_copy(update={"also": tuple(x for x in line.also if x != told.about)})
    question = next((q for q in questions_of(line, facts) if q.kind == told.kind and q.about == told.about), None)
    if question is None:
        raise CannotBe("this line asks no such question")
    if told.kind == "spelling":
        return line.model_copy(update={"guessed": ""}) if told.ingredient is None else read_as(line.text, told.ingredient, facts, profile)
    if told.kind == "word":
        left = tuple(w for w in line.unread if w != told.about)
        also = line.also if told.ingredient is None else tuple(dict.fromkeys((*line.also, told.ingredient)))
        return line.model_copy(update={"unread": left, "also": also})
    if told.choice not in {c.key for c in question.choices}:
        raise CannotBe("that is none of the answers")
    if told.kind == "which":
        return _taken(line, told.choice, facts, profile)
    bearing = _bearing(line, facts.ingredients[line.ingredient or ""], facts)
    if told.choice == "yes" and bearing is not None:
        return _taken(line, bearing.id, facts, profile)
    return line.model_copy(update={"wished": ()})


def _taken(line: BatterLine, ingredient: str, facts: ReadingFacts, profile: Profile) -> BatterLine:
    """The line as one of the things it could be; what else it says stays."""
    closed = {"maybe": (), "alternative": None, "alternative_text": None, "wished": ()}
    if ingredient == line.ingredient:
        return line.model_copy(update=closed)
    other = read_as(line.text, ingredient, facts, profile)
    also = tuple(x for x in line.also if x != ingredient)
    return other.model_copy(update={**closed, "where": line.where, "also": also, "heard": line.heard, "unread": line.unread})
