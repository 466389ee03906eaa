"""What was worked out a moment ago, for whoever asks for it again."""

import sys
from concurrent.futures import ThreadPoolExecutor

from mutabilis.core.recent import Recent


def test_it_is_made_once_anew_of_other_things_and_the_oldest_is_let_go():
    made, recent = [], Recent(2)

    def ask(key, *of):
        return recent.once(key, of, lambda: made.append(key) or len(made))

    facts, same, other = {}, {}, {}
    assert [ask("a", facts), ask("a", facts)] == [1, 1]
    assert same == facts and ask("a", same) == 2  # equal, and yet others: they may change from here on
    assert [ask("b", other), ask("a", same)] == [3, 2]
    assert [ask("c", other), ask("a", same), ask("b", other)] == [4, 2, 5]  # "b" was asked for longest ago
    assert made == ["a", "a", "b", "c", "b"]


def test_many_threads_that_ask_at_once_each_have_their_own_answer():
    """Two screens, the scale's hand and a stream look at the same batch at once."""
    recent, interval = Recent(2), sys.getswitchinterval()

    def ask(start):
        return all(recent.once(key, (recent,), lambda key=key: key) == key for key in ((7 * n + start) % 5 for n in range(3000)))

    sys.setswitchinterval(1e-6)
    try:
        with ThreadPoolExecutor(8) as pool:
            assert all(pool.map(ask, range(8)))
    finally:
        sys.setswitchinterval(interval)
