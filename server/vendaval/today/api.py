"""Endpoints of Today, Topics and the study pages, and what every run shares."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from vendaval.bank.queries import default_course
from vendaval.evidence.actions import note_shown, open_study
from vendaval.people.permissions import current_user, learner_only

from . import queries, topic
from .schemas import PracticePlanOut, StudyPageOut, TodayOut, TopicPageOut, TopicsOut, WhyOut

router = Router(auth=learner_only, tags=["today"])


class DoneOut(Schema):
    done: bool


@router.get("/today", response=TodayOut, operation_id="get_today")
def today(request: HttpRequest) -> TodayOut:
    return queries.today(current_user(request), default_course())


@router.get("/practice-plan", response=PracticePlanOut, operation_id="get_practice_plan")
def practice_plan(request: HttpRequest) -> PracticePlanOut:
    return queries.practice_plan(current_user(request), default_course())


@router.get("/topics", response=TopicsOut, operation_id="list_topics")
def topics(request: HttpRequest) -> TopicsOut:
    return queries.topics(current_user(request), default_course())


@router.get("/topics/{slug:key}", response=TopicPageOut, operation_id="get_topic")
def topic_page(request: HttpRequest, key: str) -> TopicPageOut:
    return topic.topic_page(current_user(request), default_course(), key)


@router.get("/study/{slug:key}", response=StudyPageOut, operation_id="get_study")
def study(request: HttpRequest, key: str) -> StudyPageOut:
    return queries.study(default_course(), key)


@router.post("/study/{slug:key}/{slug:section}/opened", response=DoneOut, operation_id="open_study")
def opened(request: HttpRequest, key: str, section: str) -> DoneOut:
    """A section was opened: questions it explains no longer count as answered without help."""
    course = default_course()
    page = queries.study(course, key)
    queries.require_section(page, section)
    open_study(current_user(request), course.pk, key, section)
    return DoneOut(done=True)


@router.post("/questions/{int:question_id}/shown", response=DoneOut, operation_id="question_shown")
def shown(request: HttpRequest, question_id: int) -> DoneOut:
    """The learner now sees a question that came with an earlier reply: its time begins."""
    note_shown(current_user(request), question_id)
    return DoneOut(done=True)


@router.get("/questions/{int:question_id}/why", response=WhyOut, operation_id="why_question")
def why(request: HttpRequest, question_id: int) -> WhyOut:
    """Why this question was asked, from the terms stored with it."""
    return topic.why(current_user(request), question_id)
