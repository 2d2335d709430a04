"""What the office does about other programs, as it should be."""

_OFFICE = (
    "get_record_store",
    "set_record_store",
    "set_store_secret",
    "try_record_store",
    "send_records_now",
)
PROGRAMS: dict[str, set[str]] = {name: {"office"} for name in _OFFICE}
PROGRAMS_BODIES: dict[str, dict[str, object]] = {
    "set_record_store": {
        "address": "http://127.0.0.1:9/xapi/",
        "name": "vendaval",
        "on": False,
        "since": "2030-01-01",
    },
    "set_store_secret": {"secret": "what-happened"},
}
