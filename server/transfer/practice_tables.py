"""Practice in a depot's archive: lessons of its own, who did which, what is asked for; not what hands did in a run."""

from __future__ import annotations

from transfer.table import BY, TIME, Table

PRACTICE = (
    Table(
        "lessons",
        "practice.OwnLesson",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "key": "its key",
            "text": "as it is written; TOML, see docs/lessons.md",
            **BY,
        },
    ),
    Table(
        "practice_runs",
        "practice.Run",
        "depot",
        {
            "id": "id of the run",
            "depot_id": "depot",
            "person_id": "whose; row of people",
            "lesson": "the lesson's key",
            "name": "the lesson's name",
            "text": "the lesson as it was then; empty: free practice",
            "free": "layout and capacity [l] of free practice; empty: a lesson",
            "seed": "what was drawn came from it",
            "started_at": f"begun; {TIME}",
            "clock_at": f"its own clock when somebody was last there; {TIME}",
            "seen_at": f"when that was; {TIME}",
            "ended_at": f"when its truth was shown; {TIME}; empty: not yet",
            "reached": "every aim met and nobody put at risk; empty: not ended",
            "unsafe": "how many acts could have hurt somebody",
            "result": "the truth beside the record, as it was shown",
        },
    ),
    Table(
        "asked_lessons",
        "practice.AskedLesson",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "work": "high_voltage or cleaner",
            "lesson": "the key of the lesson that is asked for before it",
            **BY,
        },
    ),
)
