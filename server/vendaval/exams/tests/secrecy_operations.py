"""The operations that the walk of secrets goes through: which nobody reaches, with what they are
asked, and whose they are."""

from __future__ import annotations

from vendaval.people.models import Role
from vendaval.people.policies import RULES

# Operations that nobody can reach in these worlds, and why.
NOT_REACHED = {
    "get_link": "a mailed link",
    "get_phone": "a phone’s link",
    "get_calendar": "a calendar’s key",
    "get_learner_page": "no paper",
    "get_page": "no paper",
    "get_task": "no work but tests",
    "get_hand_in": "no work but tests",
    "list_hand_ins": "no work but tests",
    "get_spell": "no spell",
    "get_calibrated_curves": "no calibration",
    "get_import": "nothing that was sent from elsewhere",
    "get_export_file": "made in the background, see exchange/tests/test_qti.py",
    "get_question_to_mark": "nothing that a person marks",
    "get_resource": "no film or file",
    "get_own_data_file": "made in the background, see privacy/tests/test_own_data.py",
    "get_person_data_file": "made in the background, see privacy/tests/test_own_data.py",
}
STAFF_MAY = {  # at any time
    "preview_family",
    "get_regrade_choice",
    "get_thread",
    "get_family",
    "get_bank",
    "check_publishing",
    "get_history",
    "compare_revisions",
    "list_trial_texts",
    "get_question_files",
    "export_questions",
    "export_course_pack",
}
# Operations with values of their own at every call.
CHANGES = {"health", "get_session", "get_system", "get_import_template"}
QUERIES = {
    "list_trial_texts": ("?family=range-of-tide",),
    "get_question_files": ("?families=range-of-tide",),
    "compare_revisions": ("?older=1&newer=2", "?older=1&newer=1"),
    "export_record": ("?kind=csv", "?kind=xapi"),
    "export_results": ("?kind=csv", "?kind=csv&questions=true"),
    "export_outcomes": ("?kind=csv",),
    "export_marks": ("?kind=csv", "?kind=xlsx"),
    "get_quiz_plan": ("?topics=tidal-terms&questions=4",),
    "get_spell_plan": ("?minutes=20",),
    "search_course": ("?words=tid", "?words=range"),
}
ROLES = {
    "learner": Role.LEARNER,
    "classmate": Role.LEARNER,
    "guardian": Role.GUARDIAN,
    "author": Role.AUTHOR,
    "office": Role.OFFICE,
    "tutor": Role.TUTOR,
}


def barred(name: str, operation: str) -> bool:
    """Whether an operation is none of somebody's, whatever they are to the learner: that it is
    refused then is tested for all of them with the policies."""
    rule = RULES.get(operation)
    return name in ROLES and rule is not None and ROLES[name] not in {role for role, _ in rule}
