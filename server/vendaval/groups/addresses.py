"""What stands in the address of everything that belongs to a course."""

from __future__ import annotations

from ninja import Path

CourseKey = Path[str]
