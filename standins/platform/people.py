"""Who is in the platform's course."""

from dataclasses import dataclass

MEMBERSHIP = "http://purl.imsglobal.org/vocab/lis/v2/membership#"


@dataclass(frozen=True)
class Person:
    key: str
    name: str
    given: str
    role: str

    @property
    def roles(self) -> list[str]:
        """As the standard names them."""
        return [f"{MEMBERSHIP}{self.role}"]


PEOPLE = {
    one.key: one
    for one in (
        Person("u-101", "Noa Brás", "Noa", "Learner"),
        Person("u-102", "Zé Malta", "Zé", "Learner"),
        Person("u-900", "Irene Falcão", "Irene", "Instructor"),
    )
}
COURSE, COURSE_TITLE = "c-7", "Seamanship, Mondays"
