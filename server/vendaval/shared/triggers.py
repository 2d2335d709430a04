"""Triggers for migrations, in the words of each database.

Append-only tables refuse updates. A person's erasure is let through: it runs inside `erasing`,
which leaves a mark that the triggers look for. Nothing else may change what was stored.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from django.db import connection, migrations

ERASING = "people_erasing"


def _run(by_vendor: dict[str, list[str]]) -> Any:
    def run(apps: Any, schema_editor: Any) -> None:
        for statement in by_vendor[schema_editor.connection.vendor]:
            schema_editor.execute(statement)

    return run


def append_only(table: str) -> migrations.RunPython:
    """Operation: rows of a table cannot be updated, but while a person is being erased."""
    name = f"{table}_append_only"
    says = f"{table} is only ever added to"
    make = {
        "sqlite": [
            f"CREATE TRIGGER {name} BEFORE UPDATE ON {table} "
            f"WHEN NOT EXISTS (SELECT 1 FROM {ERASING}) "
            f"BEGIN SELECT RAISE(ABORT, '{says}'); END"
        ],
        "postgresql": [
            f"CREATE FUNCTION {name}() RETURNS trigger AS $$ BEGIN "
            f"IF NOT EXISTS (SELECT 1 FROM {ERASING}) THEN RAISE EXCEPTION '{says}'; END IF; "
            "RETURN NEW; END $$ LANGUAGE plpgsql",
            f"CREATE TRIGGER {name} BEFORE UPDATE ON {table} "
            f"FOR EACH ROW EXECUTE FUNCTION {name}()",
        ],
    }
    undo = {
        "sqlite": [f"DROP TRIGGER {name}"],
        "postgresql": [f"DROP TRIGGER {name} ON {table}", f"DROP FUNCTION {name}()"],
    }
    return migrations.RunPython(_run(make), _run(undo))


def after_insert(table: str, name: str, when: str, does: str) -> migrations.RunPython:
    """Operation: a statement that follows each insert into a table.

    when, does: SQL over NEW, such as every database understands.
    """
    make = {
        "sqlite": [f"CREATE TRIGGER {name} AFTER INSERT ON {table} WHEN {when} BEGIN {does}; END"],
        "postgresql": [
            f"CREATE FUNCTION {name}() RETURNS trigger AS $$ BEGIN {does}; RETURN NULL; END $$ "
            "LANGUAGE plpgsql",
            f"CREATE TRIGGER {name} AFTER INSERT ON {table} FOR EACH ROW WHEN ({when}) "
            f"EXECUTE FUNCTION {name}()",
        ],
    }
    undo = {
        "sqlite": [f"DROP TRIGGER {name}"],
        "postgresql": [f"DROP TRIGGER {name} ON {table}", f"DROP FUNCTION {name}()"],
    }
    return migrations.RunPython(_run(make), _run(undo))


@contextmanager
def erasing() -> Iterator[None]:
    """Let a person's erasure change what is otherwise only added to; inside a transaction."""
    with connection.cursor() as cursor:
        cursor.execute(f"INSERT INTO {ERASING} (id) VALUES (1)")
    yield
    with connection.cursor() as cursor:
        cursor.execute(f"DELETE FROM {ERASING}")
