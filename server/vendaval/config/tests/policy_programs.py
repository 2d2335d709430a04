"""What the office does about other programs and the system, as it should be."""

from vendaval.bank.models import Course
from vendaval.lti.models import Platform
from vendaval.outside.models import RecordStore
from vendaval.shared import clock

_OFFICE = (
    "list_log",
    "list_sent",
    "get_system",
    "get_record_store",
    "set_record_store",
    "set_store_secret",
    "try_record_store",
    "send_records_now",
    "list_platforms",
    "add_platform",
    "change_platform",
)
_TUTORS = ("get_group_platform", "send_scores_again", "fill_from_platform")
PROGRAMS: dict[str, set[str]] = {name: {"office"} for name in _OFFICE} | {
    name: {"tutor"} for name in _TUTORS
}
PLATFORM: dict[str, object] = {
    "name": "Campus",
    "issuer": "https://campus.example",
    "client_id": "here-1",
    "login_url": "https://campus.example/auth",
    "token_url": "https://campus.example/token",
    "keys_url": "https://campus.example/keys",
}
PROGRAMS_BODIES: dict[str, dict[str, object]] = {
    "set_record_store": {
        "address": "http://127.0.0.1:9/xapi/",
        "name": "vendaval",
        "on": False,
        "since": "2030-01-01",
    },
    "set_store_secret": {"secret": "what-happened"},
    "add_platform": PLATFORM | {"client_id": "here-2"},
    "change_platform": PLATFORM | {"tutors": True},
}


def a_platform(course: Course) -> int:
    """A platform that may launch, and a store that nobody answers at; the platform's id."""
    now = clock.now()
    RecordStore.objects.create(
        school=course.school, address="http://127.0.0.1:9/xapi/", since=now, next_at=now
    )
    return Platform.objects.create(school=course.school, made_at=now, **PLATFORM).pk
