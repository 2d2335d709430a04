"""The rules of a test in plain words, for its own page before it starts."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from vendaval_core.language import gettext, gettext_noop, ngettext

from ..words import counted, in_words, minutes_words
from .composition import Composition
from .points import Total, band_of, pays_from, shown
from .release import Released
from .rules import ClockKind, LateWork, Rules, ScoreKept, Tool, When, WorkingWanted

TOLD = {
    When.AT_ONCE: gettext_noop("as soon as a question is sent"),
    When.HANDED_IN: gettext_noop("after handing in"),
    When.DUE: gettext_noop("after the due date"),
    When.CLOSED: gettext_noop("once the test has closed"),
    When.LAST_ATTEMPT: gettext_noop("after the last attempt"),
    When.MARKS_OUT: gettext_noop("when your tutor releases the marks"),
    When.NEVER: gettext_noop("never"),
}
TOOLS = {
    Tool.WORKING: gettext_noop("working area"),
    Tool.NOTES: gettext_noop("notes"),
    Tool.MARKER: gettext_noop("highlighter"),
    Tool.STRIKE_OUT: gettext_noop("crossing out choices"),
    Tool.ALOUD: gettext_noop("reading aloud"),
    Tool.CALCULATOR: gettext_noop("calculator"),
    Tool.SCIENTIFIC: gettext_noop("scientific calculator"),
    Tool.RULER: gettext_noop("ruler"),
    Tool.PROTRACTOR: gettext_noop("protractor"),
}
KEPT = {
    ScoreKept.FIRST: gettext_noop("the first one counts"),
    ScoreKept.BEST: gettext_noop("the best one counts"),
    ScoreKept.LATEST: gettext_noop("the latest one counts"),
    ScoreKept.MEAN: gettext_noop("the average counts"),
}


@dataclass(frozen=True, slots=True)
class Line:
    """One thing to know. about: what it concerns."""

    about: str
    says: str


def rule_lines(rules: Rules, composition: Composition, seconds: float | None) -> list[Line]:
    """Return everything a learner should know before starting. seconds: the learner's own limit for
    the whole test, extra time included; None without one."""
    return [
        Line(about, says)
        for about, says in (
            *_size(composition),
            *_time(rules, composition, seconds),
            *_attempts(rules),
            *_way(rules, composition),
            *_points(rules),
            *_result(rules),
            *_told(rules),
            *_materials(rules),
        )
    ]


Pair = tuple[str, str]


def points_in_words(points: Fraction) -> str:
    """Return points with their noun: 1 point, 2.5 points."""
    noun = ngettext("{points} point", "{points} points", 1 if points == 1 else 2)
    return noun.format(points=shown(points))


def accommodation_words(
    times: float, minutes: float, *, large_print: bool, reader: bool, separate_room: bool
) -> list[str]:
    """Return what a learner is allowed in every test. times, minutes: extra time."""
    factor = f"{times:.2f}".rstrip("0").rstrip(".")
    return [
        words
        for words, there in (
            (gettext("{times} times the time").format(times=factor), times != 1),
            (gettext("{minutes:g} min more").format(minutes=minutes), minutes > 0),
            (gettext("large print"), large_print),
            (gettext("a reader"), reader),
            (gettext("a separate room"), separate_room),
        )
        if there
    ]


def verdict_words(total: Total, rules: Rules) -> str:
    """Return the result of an attempt that is marked whole."""
    scale = rules.scale
    percent = gettext("{percent}%, or {scaled} of {scale}.")
    words = [
        percent.format(
            percent=shown(total.per_cent), scaled=shown(total.scaled(scale)), scale=scale
        ),
        gettext("Band: {band}.").format(band=band_of(rules.bands, total.per_cent)),
    ]
    if rules.pass_mark is not None:
        passed = total.per_cent >= rules.pass_mark
        words.append(
            (
                gettext("Passed ({mark}% needed).")
                if passed
                else gettext("Not passed ({mark}% needed).")
            ).format(mark=shown(rules.pass_mark))
        )
    if total.late_off:
        off = gettext("{percent}% off for being late.")
        words.append(off.format(percent=shown(100 * total.late_off)))
    return " ".join(words)


def _size(composition: Composition) -> Iterator[Pair]:
    questions = counted(composition.questions, "question")
    yield (
        gettext("Questions"),
        gettext("{questions}, {points} in total.").format(
            questions=f"{questions[:1].upper()}{questions[1:]}",
            points=points_in_words(composition.points),
        ),
    )


def _time(rules: Rules, composition: Composition, seconds: float | None) -> Iterator[Pair]:
    if composition.section_minutes:
        whole = sum(section.minutes or 0 for section in composition.sections)
        yield (
            gettext("Time"),
            (
                gettext(
                    "{whole} minutes in total. Each section has its own time. When it is up, "
                    "the next section starts and you can’t go back."
                ).format(whole=whole)
            ),
        )
    elif seconds is None:
        yield gettext("Time"), gettext("No limit.")
    else:
        yield (
            gettext("Time"),
            gettext("{minutes}, from when everything is loaded.").format(
                minutes=minutes_words(seconds / 60)
            ),
        )
    if rules.one_sitting:
        yield (
            gettext("Leaving"),
            (
                gettext(
                    "Do it in one sitting: if you leave, the test is handed in. If your "
                    "connection drops, come back within 10 minutes."
                )
            ),
        )
    elif seconds is not None or composition.section_minutes:
        stops = rules.clock is ClockKind.STOPS
        yield (
            gettext("Leaving"),
            (
                gettext("You may leave and come back: the clock stops while you are away.")
                if stops
                else gettext("You may leave and come back, but the clock keeps running.")
            ),
        )
    else:
        yield gettext("Leaving"), gettext("You may leave and come back. Your answers are saved.")
    match rules.late:
        case LateWork.NOT_TAKEN:
            pass
        case LateWork.TAKEN:
            yield gettext("Late"), gettext("Late work is accepted until the test closes.")
        case LateWork.LESS:
            off = shown(100 * rules.late_off)
            yield (
                gettext("Late"),
                gettext(
                    "Each day after the due date, even a part of one, costs {off}% of the points."
                ).format(off=off),
            )


def _attempts(rules: Rules) -> Iterator[Pair]:
    if rules.attempts == 1:
        yield gettext("Attempts"), gettext("One.")
    elif rules.attempts is None:
        yield (
            gettext("Attempts"),
            gettext("As many as you like; {kept}.").format(kept=gettext(KEPT[rules.score_kept])),
        )
    else:
        yield (
            gettext("Attempts"),
            f"{in_words(rules.attempts).capitalize()}; {gettext(KEPT[rules.score_kept])}.",
        )


def _way(rules: Rules, composition: Composition) -> Iterator[Pair]:
    yield gettext("Order"), _order(rules, composition)
    pages = [section.title for section in composition.sections if section.one_page]
    if pages and len(composition.sections) == 1:
        yield gettext("Pages"), gettext("All questions are on one page.")
    elif pages:
        yield (
            gettext("Pages"),
            gettext("All questions on one page: {sections}.").format(sections=_quoted(pages)),
        )
    if rules.individual and rules.tries > 1:
        off = rules.off_per_miss
        takes = (
            gettext("each wrong try costs {off} of its points").format(off=off)
            if off
            else gettext("wrong tries cost nothing")
        )
        yield (
            gettext("Tries"),
            gettext("{tries} for each question; {takes}.").format(
                tries=in_words(rules.tries).capitalize(), takes=takes
            ),
        )
    elif rules.individual:
        yield (
            gettext("Tries"),
            gettext("One for each question. You can’t change an answer after sending it."),
        )


def _order(rules: Rules, composition: Composition) -> str:
    forward = [section.title for section in composition.sections if section.forward_only]
    if rules.linear or (forward and len(forward) == len(composition.sections)):
        if any(section.one_page for section in composition.sections):
            return gettext("Forward only: you can’t go back to a question or a page.")
        return gettext("Forward only: you can’t go back to a question.")
    if forward:
        return gettext(
            "Any order, and you can change answers until you hand in. Only forward, with no way "
            "back: {sections}."
        ).format(sections=_quoted(forward))
    return gettext("Any order, and you can change answers until you hand in.")


def _quoted(titles: Sequence[str]) -> str:
    return ", ".join(gettext("“{title}”").format(title=title) for title in titles)


def _points(rules: Rules) -> Iterator[Pair]:
    if not rules.off_wrong:
        yield gettext("Wrong answers"), gettext("No points off.")
        return
    percent = shown(100 * pays_from(rules.off_wrong))
    yield (
        gettext("Wrong answers"),
        (
            gettext(
                "A wrong choice costs {off_wrong} of the question’s points. An empty answer "
                "costs nothing. Answer when you are more than {percent}% sure."
            ).format(off_wrong=rules.off_wrong, percent=percent)
        ),
    )


def _result(rules: Rules) -> Iterator[Pair]:
    if rules.pass_mark is not None:
        yield (
            gettext("Passing"),
            gettext("From {pass_mark}%.").format(pass_mark=shown(rules.pass_mark)),
        )


def _told(rules: Rules) -> Iterator[Pair]:
    release = rules.release
    when = {
        gettext("points"): release.score,
        gettext("right and wrong"): release.correctness,
        gettext("right answers"): release.answers,
        gettext("worked solutions"): release.solutions,
    }
    grouped: dict[When, list[str]] = {}
    for what, at in when.items():
        grouped.setdefault(at, []).append(what)
    lines = [f"{', '.join(whats)}: {gettext(TOLD[at])}." for at, whats in grouped.items()]
    yield gettext("What you’ll see"), " ".join(f"{line[:1].upper()}{line[1:]}" for line in lines)


def _materials(rules: Rules) -> Iterator[Pair]:
    tools = [gettext(TOOLS[tool]) for tool in Tool if tool in rules.tools]
    yield gettext("Tools"), f"{', '.join(tools).capitalize()}." if tools else gettext("None.")
    if rules.open_book:
        yield gettext("Book"), gettext("Open book: you may look things up.")
    if rules.working is WorkingWanted.ALL:
        yield gettext("Working"), gettext("Show your working for every question.")
    elif rules.working is WorkingWanted.CHOSEN:
        yield gettext("Working"), gettext("Show your working where a question says so.")


def told_words(told: Released) -> list[str]:
    """Return what may be shown of an attempt now, in the words of its rules."""
    found = {
        "points": told.score,
        gettext("right and wrong"): told.correctness,
        gettext("right answers"): told.answers,
        gettext("worked solutions"): told.solutions,
    }
    return [what for what, is_told in found.items() if is_told]
