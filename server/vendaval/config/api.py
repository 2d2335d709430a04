"""The HTTP API. Whatever belongs to a learner in a course has the course in its address."""

from ninja import NinjaAPI

from vendaval.groups.api import router as groups
from vendaval.people.api import router as people
from vendaval.rehearsal.api import router as rehearsal
from vendaval.review.api import router as review
from vendaval.shared.errors import install
from vendaval.today.api import router as today
from vendaval.work.api import router as work

COURSE = "/courses/{slug:course}"

api = NinjaAPI(title="Vendaval", version="1", docs_url=None, urls_namespace="api")
install(api)
api.add_router("", people)
api.add_router("", groups)
for router in (today, work, review):
    api.add_router(COURSE, router)
api.add_router(f"{COURSE}/rehearsal", rehearsal)
