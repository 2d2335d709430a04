"""How every request is read before any endpoint sees it."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.parser import Parser
from ninja.types import DictStrAny

from .plain_text import plain_text, plain_values


class PlainParser(Parser):
    """Ninja's own way of reading, with all text made plain: the one place for every input."""

    def parse_body(self, request: HttpRequest) -> Any:
        return plain_values(json.loads(request.body))

    def parse_querydict(
        self, data: MultiValueDict[str, Any], list_fields: list[str], request: HttpRequest
    ) -> DictStrAny:
        found = super().parse_querydict(data, list_fields, request)
        return {
            key: [plain_text(one) if isinstance(one, str) else one for one in value]
            if isinstance(value, list)
            else plain_text(value)
            if isinstance(value, str)
            else value
            for key, value in found.items()
        }
