"""What authors of a course may do and nobody else, and what they send."""

AUTHORS = (
    "begin_family",
    "get_wrong_answers",
    "look_for_formula",
    "begin_from_examples",
    "get_bank",
    "list_written",
    "list_starts",
    "rename_variable",
    "get_family",
    "save_draft",
    "discard_draft",
    "try_version",
    "check_publishing",
    "publish_family",
    "get_history",
    "compare_revisions",
    "restore_revision",
    "restore_step",
    "get_structure",
    "check_structure",
    "save_structure",
    "check_merging",
    "merge_topics",
    "get_page_to_edit",
    "preview_page",
    "save_page_text",
    "add_drawing",
)
EXAMPLES = {
    "text": "You run for [[hours]] h at 2 kn.",
    "marks": [{"name": "hours", "written": ["3", "5"], "low": 1, "high": 9}],
    "answers": ["6", "10"],
}
AUTHORS_BODIES = {
    "add_drawing": {
        "name": "buoy.svg",
        "svg": '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"></svg>',
    },
    "begin_family": {"topic": "buoyage", "title": "Lights", "start": "number"},
    "save_draft": {"text": "title: Distance run\n"},
    "try_version": {"seed": 1},
    "look_for_formula": EXAMPLES,
    "begin_from_examples": {
        **EXAMPLES,
        "topic": "buoyage",
        "title": "Lights",
        "formula": "hours * 2",
    },
    "rename_variable": {"old": "speed", "new": "knots"},
}
