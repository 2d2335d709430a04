"""Names of the standard: LTI 1.3 and LTI Advantage (1EdTech), from memory."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

CLAIM = "https://purl.imsglobal.org/spec/lti/claim/"
DEEP_LINKING = "https://purl.imsglobal.org/spec/lti-dl/claim/"
SCORES_CLAIM = "https://purl.imsglobal.org/spec/lti-ags/claim/endpoint"
MEMBERS_CLAIM = "https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice"
SCORE = "https://purl.imsglobal.org/spec/lti-ags/scope/score"
MEMBERS = "https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly"


def may_score(service: Mapping[str, Any]) -> bool:
    """Whether a platform takes scores for a link."""
    return SCORE in service.get("scope", [])
