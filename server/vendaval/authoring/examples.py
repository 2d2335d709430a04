"""A question from examples: its formula looked for in a process of its own, then a draft of it."""

from __future__ import annotations

import json

from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.people.models import User
from vendaval.shared.errors import Unprocessable
from vendaval.shared.markdown import to_inline_html
from vendaval.shared.sandbox import Limits, in_sandbox
from vendaval_core.authoring.edits import written
from vendaval_core.authoring.formulas.question import as_fields
from vendaval_core.authoring.formulas.words import in_words
from vendaval_core.errors import CoreError
from vendaval_core.items.expressions import evaluate

from .access import Begun
from .course.reading import constants_of
from .drafts import begin_family, keep_text
from .example_schemas import (
    BeginFromExamplesIn,
    ExamplesIn,
    ExplainsOut,
    FormulaOut,
)
from .families import Opened
from .schemas import NewFamilyIn
from .searching import question_of

MODULE = "vendaval.authoring.searching"
# The search itself stops after four seconds; loading takes another.
BOUNDS = Limits(megabytes=900, seconds=9, patience=20)


def look_for(course: Course, body: ExamplesIn, by: User) -> FormulaOut:
    """Look for the formula of a question; Unprocessable for an example that can't be read."""
    asked = body.model_dump(mode="json") | {"constants": constants_of(course)}
    sent = json.dumps(asked).encode()
    reply, _ = in_sandbox(MODULE, {}, sent, who=f"author-{by.pk}", limits=BOUNDS)
    if "unread" in reply:
        raise Unprocessable(reply["unread"], fields={reply["where"]: reply["unread"]})
    return FormulaOut(
        state=reply["state"],
        fits=[
            ExplainsOut(**one, maths_html=to_inline_html(f"${one['maths']}$"))
            for one in reply["fits"]
        ],
        more=reply["more"],
        ask=reply["ask"],
    )


def begin_from_examples(begun: Begun, body: BeginFromExamplesIn, by: User) -> Opened:
    """A draft of a question with the formula that was found, or that its author wrote."""
    question = question_of(body.model_dump(mode="json"))
    values = {mark.name: mark.read(mark.written[0]) for mark in question.marks}
    try:
        evaluate(body.formula, values)
        in_words(body.formula)
    except (CoreError, KeyError, SyntaxError) as error:
        says = gettext("We can’t work out that formula.")
        raise Unprocessable(says, fields={"formula": str(error) or says}) from error
    wanted = NewFamilyIn(topic=body.topic, title=body.title, start="number")
    family = begin_family(begun, wanted, by)
    study = str((family.read(family.text).data or {}).get("study", "start"))
    return keep_text(family, written(as_fields(question, body.title, study, body.formula)), by)
