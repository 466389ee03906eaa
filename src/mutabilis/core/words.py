"""How sentences are put together."""

from collections.abc import Iterable


def listed(words: Iterable[str], last: str = "and") -> str:
    """Words in a row, as they are said one after the other; "" where there are none.

    >>> listed(["milk", "egg", "oil"]), listed(["milk", "oil"], "or"), listed(["milk"]), listed([])
    ('milk, egg and oil', 'milk or oil', 'milk', '')
    """
    said = list(words)
    return f" {last} ".join(x for x in (", ".join(said[:-1]), *said[-1:]) if x)


def sentence(words: str) -> str:
    """Words as a sentence by itself.

    >>> sentence("read the pack"), sentence("Cold?")
    ('Read the pack.', 'Cold?')
    """
    return words[:1].upper() + words[1:] + ("" if words.endswith((".", "!", "?")) else ".")
