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
    """Set the translator for all sentences. It finds out by itself who asks, and in which
    language."""
    global _translator
    _translator = translator


def gettext(message: str) -> str:
    """Return a sentence in the language of the current reader."""
    return _translator.gettext(message)


def ngettext(one: str, many: str, number: int) -> str:
    """Return the singular or plural sentence for a number, in the current reader's language."""
    return _translator.ngettext(one, many, number)


def gettext_noop(message: str) -> str:
    """Mark a sentence in a constant for translation; call `gettext` on it where it is shown."""
    return message
