"""A guest who is taken out comes back by Undo as the same guest: the line that the page writes is read as what it was written from."""

import pytest

from mutabilis.core.food.allergen_tokens import ALLERGENS
from mutabilis.core.service.guests import read_guests
from mutabilis.core.service.hours import spoken
from tests.core.service.planned import RULES

LINES = """Ada Lind, 07:30, coeliac, vegan, 3 cakes, table walkers
"Peter Fish", 07:30:15, severely lactose intolerant
two vegans, 08:00, 2 waffles
Ada & Bo + 1, 7.45, gf and nut allergy, 1 crêpe
party of four, 09:00, one allergic to brazil nuts, sesame
Anna-Lena O'Brien, 07:30, dairy-free by choice, low carb
12, 07:30, shellfish intolerance, 5
"""


@pytest.mark.parametrize("line", LINES.splitlines())
def test_what_the_page_writes_is_read_as_the_same_guest(line, pure):
    guests, unread = read_guests(line, RULES, ALLERGENS)
    assert guests and not unread
    for guest in guests:
        shown = {
            "name": guest.name, "at": spoken(guest.at), "table": guest.table or "", "pieces": guest.pieces, "form": guest.form, "needs": [n.model_dump() for n in guest.needs],
        }  # fmt: skip
        (again,), unread = read_guests(pure("p.guestLine(a)", shown), RULES, ALLERGENS)
        assert not unread and again.model_copy(update={"id": guest.id}) == guest
