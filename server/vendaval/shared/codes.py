"""Short codes that are read from a board and typed: no letter that looks like another."""

from __future__ import annotations

import secrets

LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"
LENGTH = 8


def new_code() -> str:
    """A code nobody can guess: one of 8.5 · 10¹¹."""
    return "".join(secrets.choice(LETTERS) for _ in range(LENGTH))


def shown_code(code: str) -> str:
    """A code as it is read out: two groups of four."""
    return f"{code[:4]}-{code[4:]}"


def typed_code(text: str) -> str:
    """A code from what was typed: small letters, spaces and hyphens make no difference."""
    return "".join(letter for letter in text.upper() if letter.isalnum())
