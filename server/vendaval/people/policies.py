"""Who may do what with what: one table of operation × role × relation.

An operation is named as in the API's document. Whoever has no relation that the table names gets
404 and not 403, so that ids tell nothing.
"""

from __future__ import annotations

from collections.abc import Mapping, Set
from enum import StrEnum

from django.utils.translation import gettext

from vendaval.shared.errors import NotFound

from .models import Role
from .policy_names import PROGRAMS


class Relation(StrEnum):
    """What somebody is to a learner's work: their own, of a group of mine, of a learner I am the
    guardian of, of a course I write for, of somebody of my group who asked me, of my school."""

    OWN = "own"
    GROUP = "group"
    CHILD = "child"
    COURSE = "course"
    CLASSMATE = "classmate"
    SCHOOL = "school"


Rule = frozenset[tuple[Role, Relation]]

OWN_WORK: Rule = frozenset({(Role.LEARNER, Relation.OWN)})
OWN_GROUPS: Rule = frozenset({(Role.TUTOR, Relation.OWN)})
OF_GROUP: Rule = frozenset({(Role.TUTOR, Relation.GROUP)})
OF_SCHOOL: Rule = frozenset({(Role.OFFICE, Relation.SCHOOL)})
OWN_WARDS: Rule = frozenset({(Role.GUARDIAN, Relation.OWN)})
OWN_COURSES: Rule = frozenset({(Role.AUTHOR, Relation.OWN)})
WRITERS: Rule = frozenset({(Role.AUTHOR, Relation.OWN), (Role.TUTOR, Relation.GROUP)})
ANSWERS: Rule = frozenset(
    {
        (Role.LEARNER, Relation.OWN),
        (Role.LEARNER, Relation.CLASSMATE),
        (Role.TUTOR, Relation.GROUP),
        (Role.AUTHOR, Relation.COURSE),
    }
)
SETTLES: Rule = ANSWERS - {(Role.LEARNER, Relation.CLASSMATE)}
OF_LEARNER: Rule = frozenset({(Role.TUTOR, Relation.GROUP), (Role.GUARDIAN, Relation.CHILD)})

READS = (
    "get_today",
    "get_practice_plan",
    "list_topics",
    "search_course",
    "get_topic",
    "get_study",
    "get_resource",
    "get_rehearsal",
    "get_run",
    "why_question",
    "list_misses",
    "get_miss",
    "get_revision",
    "get_quiz_plan",
    "list_tests",
    "get_test",
    "get_attempt",
    "get_so_far",
    "get_receipt",
    "get_results",
    "get_result_question",
    "export_results",
    "get_paper",
    "get_page",
    "list_files",
    "get_file",
    "get_file_page",
    "list_tasks",
    "list_waiting_work",
    "get_task",
    "get_hand_in",
    "list_own_notes",
    "get_own_marks",
)
WRITES = (
    "open_study",
    "read_back",
    "question_shown",
    "start_run",
    "go_on",
    "finish_run",
    "answer_question",
    "undo",
    "swap_question",
    "open_hint",
    "show_working",
    "fresh_version",
    "set_aside_miss",
    "take_up_miss",
    "note_studied",
    "put_step_aside",
    "bring_step_back",
    "try_rehearsal",
    "start_attempt",
    "enter_attempt",
    "sign_attempt",
    "leave_attempt",
    "move_on_attempt",
    "save_answer",
    "hand_in_attempt",
    "make_phone_link",
    "add_pages",
    "change_page",
    "remove_page",
    "all_pages_in",
    "set_links",
    "start_hand_in_file",
    "hand_in_task",
    "take_back_task",
    "start_file",
    "make_working_link",
    "send_chunk",
    "remove_file",
)
RULES: Mapping[str, Rule] = {
    **dict.fromkeys(READS + WRITES, OWN_WORK),
    **dict.fromkeys(
        (
            "get_plan",
            "get_spell_plan",
            "start_spell",
            "get_spell",
            "go_on_spell",
            "end_spell",
        ),
        OWN_WORK,
    ),
    **dict.fromkeys(("get_record", "list_tries", "get_try", "export_record"), OWN_WORK),
    **dict.fromkeys(
        ("get_learner_record", "list_learner_tries", "get_learner_try", "get_learner_marks"),
        OF_LEARNER,
    ),
    **dict.fromkeys(
        ("list_learner_files", "get_learner_file", "get_learner_file_page"), OF_LEARNER
    ),
    **dict.fromkeys(("get_aims", "set_aims", "make_guardian_code"), OWN_WORK),
    **dict.fromkeys(
        ("list_classmates", "ask_help", "report_fault", "contest_mark", "list_threads"), OWN_WORK
    ),
    **dict.fromkeys(("get_thread", "reply_thread"), ANSWERS),
    "settle_thread": SETTLES,
    **dict.fromkeys(
        (
            "list_groups",
            "list_inbox",
            "list_marking",
            "list_waiting_talks",
            "list_waiting_hand_ins",
        ),
        OWN_GROUPS,
    ),
    "list_faults": OWN_COURSES,
    "list_own_questions": OF_GROUP,
    **dict.fromkeys(
        (
            "begin_family",
            "get_wrong_answers",
            "look_for_formula",
            "begin_from_examples",
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
        ),
        WRITERS,
    ),
    **dict.fromkeys(
        (
            "get_bank",
            "change_many",
            "get_question_files",
            "list_written",
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
            "list_imports",
            "begin_import",
            "get_import_template",
            "export_questions",
            "export_course_pack",
            "get_import",
            "change_import_row",
            "set_import_topic",
            "skip_wrong_rows",
            "choose_imported_test",
            "store_import",
            "undo_import",
            "list_exports",
            "begin_export",
            "get_export_file",
        ),
        OWN_COURSES,
    ),
    **dict.fromkeys(
        (
            "start_practice_learner",
            "search_bank",
            "preview_family",
            "get_test_analysis",
            "get_stopping",
            "stop_question",
            "ask_question_again",
            "list_composing",
            "list_composed",
            "check_test",
            "compose_test",
            "get_composed",
            "change_test",
            "remove_test",
        ),
        OWN_GROUPS | OWN_COURSES,
    ),
    **dict.fromkeys(
        (
            "get_group",
            "get_missed",
            "get_group_calendar",
            "list_signals",
            "look_at_signal",
            "get_group_settings",
            "set_group",
            "make_join_code",
            "revoke_join_code",
            "remove_member",
            "list_group_tests",
            "list_group_tasks",
            "list_hand_ins",
            "mark_hand_in",
            "check_task",
            "set_task",
            "change_task",
            "withdraw_task",
            "restore_task",
            "restore_test",
            "check_given",
            "give_test",
            "get_given",
            "change_given",
            "withdraw_test",
            "get_sitting",
            "forecast_test",
            "get_outcomes",
            "export_outcomes",
            "get_analysis",
            "compare_test",
            "list_group_messages",
            "write_group",
            "list_covers",
            "get_group_platform",
            "send_scores_again",
            "fill_from_platform",
            "add_cover",
            "end_cover",
            "list_terms",
            "start_term",
            "get_mark_book",
            "change_term",
            "enter_marks",
            "get_mark_of_learner",
            "check_closing",
            "close_term",
            "correct_mark",
            "export_marks",
            "check_marks_file",
            "import_marks",
            "list_regrades",
            "get_regrade_choice",
            "preview_regrade",
            "regrade",
            "undo_regrade",
            "get_marking",
            "get_question_to_mark",
            "mark_answer",
            "undo_mark",
            "set_criteria",
            "set_second_marker",
            "adjust_marker",
            "release_marks",
            "allow_learner",
            "get_accommodation",
            "set_accommodation",
            "tick_sheets_shown",
            "close_pages",
            "get_learner_page",
            "hand_in_for",
            "pause_sitting",
            "resume_sitting",
            "give_more_time",
            "check_reopening",
            "reopen_attempt",
            "list_notes",
            "add_note",
            "remove_note",
            "void_try",
            "count_try_again",
        ),
        OF_GROUP,
    ),
    **dict.fromkeys(
        (
            "get_office",
            "list_people",
            "invite_person",
            "get_person",
            "change_person",
            "delete_person",
            "write_person",
            "close_person",
            "reopen_person",
            "sign_out_person",
            "end_factor_of",
            "note_consent",
            "name_guardian",
            "end_guardian",
            "add_to_group",
            "remove_from_group",
            "get_person_data",
            "ask_person_data",
            "get_person_data_file",
            "get_empty_list",
            "check_list",
            "import_list",
            "list_office_groups",
            "make_group",
            "get_office_group",
            "name_group",
            "get_school",
            "set_school",
            "make_course",
            "set_course",
            "list_log",
            "list_sent",
            "get_system",
            "check_fairness",
            "retry_job",
            "apply_calibration",
            *PROGRAMS,
        ),
        OF_SCHOOL,
    ),
    "list_wards": OWN_WARDS,
    **dict.fromkeys(("get_learner", "get_learner_topic", "list_talks", "write_talk"), OF_LEARNER),
}


def may(operation: str, roles: Set[Role], relation: Relation | None) -> bool:
    """Whether somebody with these roles, standing in this relation, may do something."""
    if relation is None:
        return False
    return any((role, relation) in RULES[operation] for role in roles)


def require(operation: str, roles: Set[Role], *relations: Relation | None) -> None:
    """NotFound unless they may, standing in one of these relations."""
    if not any(may(operation, roles, relation) for relation in relations):
        raise NotFound(gettext("This page belongs to somebody else."))
