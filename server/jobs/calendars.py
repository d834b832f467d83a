"""What comes due as an iCalendar file (RFC 5545), by the icalendar package; planned days and people are followed."""

from __future__ import annotations

from datetime import datetime, timedelta
from urllib.parse import urlsplit

from icalendar import Alarm, Calendar, Event

from jobs.plan import PlanRow


def calendar_of(rows: list[PlanRow], now: datetime, address: str, name: str = "") -> bytes:
    """One all-day event for each, with an alarm on its morning. address: where Temper answers; name: whose it is."""
    calendar = Calendar()
    calendar.add("prodid", "-//Temper//plan//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"Temper: {name or 'checks due'}")
    host = urlsplit(address).hostname or "temper"
    for row in rows:
        event = Event()
        of = f"{row.machine.fleet_number}, {row.name}" if row.machine is not None else row.name
        event.add("uid", f"{row.key}@{host}")
        event.add("dtstamp", now)
        event.add("dtstart", row.day)
        event.add("dtend", row.day + timedelta(days=1))
        event.add("summary", f"{of}: {row.said.sentence}")
        words = [f"{row.machine.kind} {row.machine.description}".strip()] if row.machine is not None else []
        words += ["Overdue"] if row.overdue else []
        words += [f"Planned; due {row.due_on:%d %b %Y}"] if row.planned and row.day != row.due_on else []
        words += [f"Assigned to {row.person.name}"] if row.person is not None else []
        event.add("description", ". ".join(words) + "." if words else "")
        event.add("url", f"{address}/loops/{row.loop_id}/check" if row.loop_id is not None else f"{address}/instruments")
        event.add("transp", "TRANSPARENT")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", event["summary"])
        alarm.add("trigger", timedelta(hours=7))
        event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
