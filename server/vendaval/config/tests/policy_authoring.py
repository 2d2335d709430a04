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
)
EXAMPLES = {
    "text": "You run for [[hours]] h at 2 kn.",
    "marks": [{"name": "hours", "written": ["3", "5"], "low": 1, "high": 9}],
    "answers": ["6", "10"],
}
AUTHORS_BODIES = {
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
