"""Reads a calendar from standard input with two independent readers and prints, as JSON, the dates on which
each of its to-dos comes back between two days: those of python3-icalendar with
python3-recurring-ical-events, and those of libical."""

import datetime
import json
import sys
from collections import defaultdict

import gi
import icalendar
import recurring_ical_events

gi.require_version("ICalGLib", "3.0")
from gi.repository import ICalGLib  # noqa: E402

TEXT = sys.stdin.buffer.read().decode()
FROM, TO = (datetime.date.fromisoformat(text) for text in sys.argv[1:3])


def written(moment):
    if isinstance(moment, datetime.datetime):
        return moment.strftime("%Y-%m-%dT%H:%M")
    return moment.isoformat()


def of_python():
    """What python3-icalendar reads: problems of reading, and dates by UID."""
    calendar = icalendar.Calendar.from_ical(TEXT)
    errors = [
        [str(part.get("UID")), str(error)] for part in calendar.walk() for error in part.errors
    ]
    found = defaultdict(set)
    # Single times stand for their slots: what is compared is the set that they are taken from.
    plain = icalendar.Calendar()
    for part in calendar.subcomponents:
        if "RECURRENCE-ID" not in part:
            plain.add_component(part)
    for part in recurring_ical_events.of(plain, components=["VTODO"]).between(FROM, TO):
        if "DTSTART" in part:
            found[str(part["UID"])].add(written(part["DTSTART"].dt))
    return errors, found


def of_libical():
    """What libical reads: its own lines about errors, and dates by UID."""
    calendar = ICalGLib.Component.new_from_string(TEXT)
    errors = calendar.count_errors()
    found = defaultdict(set)
    part = calendar.get_first_component(ICalGLib.ComponentKind.VTODO_COMPONENT)
    start = ICalGLib.Time.new_from_string(FROM.strftime("%Y%m%dT000000"))
    end = ICalGLib.Time.new_from_string(TO.strftime("%Y%m%dT235959"))
    while part is not None:
        if part.get_first_property(ICalGLib.PropertyKind.RECURRENCEID_PROPERTY) is None:
            uid = part.get_uid()
            zone = part.get_dtstart().get_timezone()
            is_date = part.get_dtstart().is_date()

            def seen(_part, span, _data=None, uid=uid, zone=zone, is_date=is_date):
                at = ICalGLib.Time.new_from_timet_with_zone(span.get_start(), 0, zone)
                text = f"{at.get_year():04}-{at.get_month():02}-{at.get_day():02}"
                hour = f"T{at.get_hour():02}:{at.get_minute():02}"
                found[uid].add(text if is_date else text + hour)

            if part.get_first_property(ICalGLib.PropertyKind.DTSTART_PROPERTY) is not None:
                part.foreach_recurrence(start, end, seen, None)
        part = calendar.get_next_component(ICalGLib.ComponentKind.VTODO_COMPONENT)
    return errors, found


def main():
    python_errors, by_python = of_python()
    libical_errors, by_libical = of_libical()
    print(
        json.dumps(
            {
                "errors": {"icalendar": python_errors, "libical": libical_errors},
                "icalendar": {uid: sorted(dates) for uid, dates in by_python.items()},
                "libical": {uid: sorted(dates) for uid, dates in by_libical.items()},
            }
        )
    )


main()
