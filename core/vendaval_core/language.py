"""Where a translation of the core's sentences comes in: whoever uses the core hands a translator
over. Without one every sentence is said in English, as it is written."""

from __future__ import annotations

from gettext import NullTranslations
from typing import Protocol


class Translator(Protocol):
    """What is asked of a translator; the standard library's GNUTranslations is one."""

    def gettext(self, message: str) -> str: ...

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str: ...


_translator: Translator = NullTranslations()


def translate_with(translator: Translator) -> None:
    """Use a translator from now on. It finds out by itself who asks, and in what language."""
    global _translator
    _translator = translator


def gettext(message: str) -> str:
    """A sentence in the language of whoever asks."""
    return _translator.gettext(message)


def ngettext(one: str, many: str, number: int) -> str:
    """The one of two sentences that goes with a number, in the language of whoever asks."""
    return _translator.ngettext(one, many, number)


def gettext_noop(message: str) -> str:
    """Mark a sentence for translation that is kept in a constant: gettext it where it is said."""
    return message
