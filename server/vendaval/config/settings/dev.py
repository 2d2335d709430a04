"""Development and the demo on one machine."""

from .base import *  # noqa: F403

DEMO_ACCOUNTS = True
PRIVATE_ADDRESSES = True
