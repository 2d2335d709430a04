"""What a learner sends as the answer to a part."""

from __future__ import annotations

from typing import Annotated

from django.utils.translation import gettext
from pydantic import AfterValidator, Field

from vendaval_core.items.rich_text import LONGEST, RichTextError, is_rich, tidied

LONGEST_PLAIN = 20_000
PartId = Annotated[str, Field(max_length=30)]
Stored = Annotated[dict[PartId, Annotated[str, Field(max_length=LONGEST)]], Field(max_length=12)]
"""Answers by part, as they are kept."""


def tidied_responses(responses: dict[str, str]) -> dict[str, str]:
    """Answers with nothing but their structure; ValueError for what has none of ours."""
    if any(len(text) > LONGEST_PLAIN and not is_rich(text) for text in responses.values()):
        raise ValueError(gettext("An answer is too long."))
    try:
        return {part: tidied(response) for part, response in responses.items()}
    except RichTextError as error:
        raise ValueError(str(error)) from None


Responses = Annotated[Stored, AfterValidator(tidied_responses)]
"""Answers by part, as they come: nothing but its structure stays of a text that has one."""
