"""Tests of the core. Property tests try the same examples in every run."""

from hypothesis import HealthCheck, settings

# How long drawing takes is a matter of what else the machine does.
settings.register_profile(
    "steady", derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("steady")
