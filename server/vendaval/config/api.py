"""The HTTP API. Whatever belongs to a learner in a course has the course in its address."""

from ninja import NinjaAPI

from vendaval.assigning.api import for_group, own_tasks
from vendaval.assigning.tests_api import router as setting
from vendaval.authoring.api import groups as own_questions
from vendaval.authoring.api import router as authoring
from vendaval.authoring.bank.api import router as authors_bank
from vendaval.authoring.bank.api import written
from vendaval.authoring.calibrating.api import router as calibrating
from vendaval.authoring.course.api import router as course_structure
from vendaval.authoring.course.page_api import router as study_pages
from vendaval.authoring.trials.api import router as trials
from vendaval.exams.composing.api import everywhere as composing_for
from vendaval.exams.composing.api import router as composing
from vendaval.exams.invigilating.api import router as invigilating
from vendaval.exams.marking.api import router as marking
from vendaval.exams.outcomes.api import of_course as test_analysis
from vendaval.exams.outcomes.api import router as outcomes
from vendaval.exams.paper.api import phone
from vendaval.exams.paper.api import router as paper
from vendaval.exams.regrading.api import router as regrading
from vendaval.exams.results.api import router as results
from vendaval.exams.taking.api import router as exams
from vendaval.exchange.api import router as exchange
from vendaval.files.api import for_others as learner_files
from vendaval.files.api import router as files
from vendaval.groups.api import router as groups
from vendaval.lti.api import router as group_platforms
from vendaval.marks.api import own as own_marks
from vendaval.marks.api import router as marks
from vendaval.notices.api import router as notices
from vendaval.office.data_api import router as office_data
from vendaval.office.fairness_api import router as office_fairness
from vendaval.office.groups_api import router as office_groups
from vendaval.office.list_api import router as office_list
from vendaval.office.people_api import router as office_people
from vendaval.office.programs_api import router as office_programs
from vendaval.office.school_api import router as office_school
from vendaval.office.system_api import router as office_system
from vendaval.people.account_api import router as account
from vendaval.people.api import router as people
from vendaval.planning.api import router as planning
from vendaval.privacy.api import router as privacy
from vendaval.quiz.api import router as quiz
from vendaval.record.api import router as record
from vendaval.rehearsal.api import router as rehearsal
from vendaval.review.api import router as review
from vendaval.shared.errors import install
from vendaval.shared.parsing import PlainParser
from vendaval.threads.api import router as threads
from vendaval.threads.talks import router as talks
from vendaval.today.api import own_calendar
from vendaval.today.api import router as today
from vendaval.tutor.api import router as tutor
from vendaval.tutor.covers import router as covers
from vendaval.tutor.messages import router as group_messages
from vendaval.tutor.notes import own_notes
from vendaval.tutor.notes import router as notes
from vendaval.tutor.signals.api import router as signals
from vendaval.work.api import router as work

COURSE = "/courses/{slug:course}"

api = NinjaAPI(
    title="Vendaval",
    version="1",
    docs_url=None,
    urls_namespace="api",
    parser=PlainParser(),
)
install(api)
ABOUT_GROUPS = (
    groups,
    notes,
    composing_for,
    tutor,
    signals,
    talks,
    setting,
    for_group,
    invigilating,
    outcomes,
    marking,
    regrading,
    learner_files,
    marks,
    covers,
    group_messages,
    own_questions,
    group_platforms,
)
OFFICE = (
    office_people,
    office_list,
    office_programs,
    office_data,
    office_groups,
    office_school,
    office_system,
    office_fairness,
)
ABOUT_PEOPLE = (people, account, *OFFICE, privacy)
for router in (*ABOUT_PEOPLE, *ABOUT_GROUPS, notices, threads, record, phone, own_calendar):
    api.add_router("", router)
for router in (
    today,
    work,
    files,
    review,
    quiz,
    planning,
    exams,
    results,
    composing,
    test_analysis,
    own_tasks,
    own_notes,
    own_marks,
    paper,
):
    api.add_router(COURSE, router)
api.add_router(f"{COURSE}/rehearsal", rehearsal)
api.add_router(f"{COURSE}/authoring", authoring)
api.add_router(f"{COURSE}/authoring/bank", authors_bank)
api.add_router(f"{COURSE}/authoring/structure", course_structure)
api.add_router(f"{COURSE}/authoring/pages", study_pages)
api.add_router(f"{COURSE}/authoring/trials", trials)
api.add_router(f"{COURSE}/authoring/calibration", calibrating)
api.add_router(f"{COURSE}/exchange", exchange)
api.add_router("/written", written)
