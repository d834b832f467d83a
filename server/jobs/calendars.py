"""Rechecks and services as an iCalendar file (RFC 5545), by the icalendar package."""

from __future__ import annotations

from datetime import datetime, timedelta
from urllib.parse import urlsplit

from icalendar import Alarm, Calendar, Event

from jobs.back_schemas import ComingBack


def calendar_of(rows: list[ComingBack], now: datetime, address: str) -> bytes:
    """One all-day event for each, with an alarm on its morning. address: where Temper answers."""
    calendar = Calendar()
    calendar.add("prodid", "-//Temper//rechecks//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", "Temper: checks due")
    host = urlsplit(address).hostname or "temper"
    for row in rows:
        if row.due_on is None:
            continue
        event = Event()
        what = row.why.value if row.why else "service"
        event.add("uid", f"{what}-{row.loop_id}-{row.due_on:%Y%m%d}@{host}")
        event.add("dtstamp", now)
        event.add("dtstart", row.due_on)
        event.add("dtend", row.due_on + timedelta(days=1))
        event.add("summary", f"{row.machine.fleet_number}, {row.loop_name}: {row.said.sentence}")
        late = " Overdue." if row.overdue else ""
        event.add("description", f"{row.machine.kind} {row.machine.description}.{late}".strip())
        event.add("url", f"{address}/loops/{row.loop_id}/check")
        event.add("transp", "TRANSPARENT")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", event["summary"])
        alarm.add("trigger", timedelta(hours=7))
        event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
