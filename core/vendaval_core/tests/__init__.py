"""Tests of the core. Property tests try the same examples in every run."""

from hypothesis import settings

settings.register_profile("steady", derandomize=True)
settings.load_profile("steady")
