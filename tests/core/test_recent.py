"""What was worked out a moment ago, for whoever asks for it again."""

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
