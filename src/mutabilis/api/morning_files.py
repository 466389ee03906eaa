"""The plan of a morning as files: a calendar of its tasks, a table, whole; and the labels of the evening's bags."""

import csv
import io
from datetime import UTC, date, datetime, timedelta
from typing import Literal

from fastapi import APIRouter, Response

from mutabilis.core.errors import NotKnown
from mutabilis.core.service.acts import Act
from mutabilis.core.service.evening import labels_of
from mutabilis.core.service.hours import hour
from mutabilis.formats import label_pdf
from mutabilis.formats.card_pdf import Paper

from .context import PROBLEMS, Here
from .morning import DayPath, morning_of, view_of
from .tables import cell, saved

router = APIRouter(prefix="/api/morning", responses=PROBLEMS, tags=["morning"])


@router.get("/{day}/plan.{kind}", responses={200: {"content": {"text/calendar": {}, "text/csv": {}, "application/json": {}}}})
def plan_file(day: DayPath, kind: Literal["ics", "csv", "json"], here: Here) -> Response:
    """The plan as a calendar of its tasks, as a table, or whole."""
    m = morning_of(day, here)
    if m.plan is None:
        raise NotKnown(f"plan of {day}")
    rows = view_of(m, here).acts
    if kind == "json":
        return Response(m.plan.model_dump_json(by_alias=True, indent=1), media_type="application/json")
    if kind == "csv":
        out = io.StringIO()
        table = csv.writer(out)
        table.writerow(("at", "to", "who", "do", "of", "words"))
        table.writerows((hour(a.at), hour(a.to), a.who, a.do, a.of, cell(a.words)) for a in rows)
        return Response(out.getvalue(), media_type="text/csv; charset=utf-8", headers=saved(f"morning-{day}.csv"))
    return Response(_calendar(day, rows), media_type="text/calendar; charset=utf-8", headers=saved(f"morning-{day}.ics"))


@router.get("/{day}/labels.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def bag_labels(day: DayPath, here: Here, paper: Paper = "a4") -> Response:
    """A label for each bag of the evening."""
    return Response(
        label_pdf.write(labels_of(view_of(morning_of(day, here), here).mixes, day), paper, copies=1), media_type="application/pdf"
    )


def _calendar(day: str, rows: tuple[Act, ...]) -> bytes:
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//mutabilis//morning//EN")
    calendar.add("version", "2.0")
    midnight = datetime.combine(date.fromisoformat(day), datetime.min.time())
    for a in rows:
        event = Event()
        event.add("uid", f"{day}-{a.do}-{a.of}-{a.at}@mutabilis")
        event.add("dtstamp", datetime.combine(date.fromisoformat(day), datetime.min.time(), UTC))
        event.add("dtstart", midnight + timedelta(seconds=a.at))
        event.add("dtend", midnight + timedelta(seconds=max(a.to, a.at + 60)))
        event.add("summary", a.words)
        if a.why:
            event.add("description", a.why)
        calendar.add_component(event)
    made: bytes = calendar.to_ical()
    return made
