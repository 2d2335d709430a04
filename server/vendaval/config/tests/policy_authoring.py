"""What authors of a course may do and nobody else, and what they send."""

AUTHORS = (
    "begin_family",
    "get_wrong_answers",
    "look_for_formula",
    "begin_from_examples",
    "get_bank",
    "change_many",
    "get_question_files",
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
    "get_page_history",
    "preview_page",
    "save_page_text",
    "add_drawing",
    "add_page_file",
    "list_trials",
    "list_trial_texts",
    "start_trial",
    "end_trial",
    "adopt_text",
    "adopt_question",
    "get_calibration",
    "get_calibrated_curves",
    "run_calibration",
    "run_calibration_of_table",
    "accept_calibration",
    "undo_calibration",
)
# A tutor of the course writes only for the own questions of a group.
WRITERS: dict[str, set[str]] = {name: {"author"} for name in AUTHORS} | {
    "list_starts": {"author", "tutor"},
    "look_for_formula": {"author", "tutor"},
    "list_own_questions": {"tutor"},
}
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
    "change_many": {
        "families": ["coming-in"],
        "do": "difficulty",
        "difficulty": 2,
        "why": "Easy.",
    },
    "rename_variable": {"old": "speed", "new": "knots"},
}

# What is sent as a file, and what stands behind the address.
_PEOPLE = b"name,mail,role\nNel Reis,nel.reis@school.example,tutor\n"
UPLOADS = {
    "check_list": ("", _PEOPLE),
    "import_list": ("", _PEOPLE),
    "check_marks_file": ("", b"learner\n"),
    "import_marks": ("", b"learner\n"),
    "add_page_file": ("?name=card.csv", b"hour,share\n"),
    "run_calibration_of_table": (
        "?name=paper.csv",
        b"distance-run,time-to-run\n" + b"1,0\n" * 10,
    ),
}
