"""Names of operations that are allowed alike."""

PROGRAMS = (
    "get_record_store",
    "set_record_store",
    "set_store_secret",
    "try_record_store",
    "send_records_now",
    "list_platforms",
    "add_platform",
    "change_platform",
)
"""What an office does about other programs."""
