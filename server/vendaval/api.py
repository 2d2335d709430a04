"""The HTTP API."""

from ninja import NinjaAPI

from vendaval.diagnostic.api import router as diagnostic
from vendaval.people.api import router as people
from vendaval.practice.api import router as practice
from vendaval.rehearsal.api import router as rehearsal
from vendaval.review.api import router as review
from vendaval.shared.errors import install
from vendaval.today.api import router as today

api = NinjaAPI(title="Vendaval", version="1", docs_url=None, urls_namespace="api")
install(api)
api.add_router("", people)
api.add_router("", today)
api.add_router("/diagnostic", diagnostic)
api.add_router("/practice", practice)
api.add_router("/review", review)
api.add_router("/rehearsal", rehearsal)
