"""A state as bytes and back."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from vendaval_core.measure.grid import NODES
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.posterior import LearnerState, Prior
from vendaval_core.measure.rates import COARSE_NODES, OneFollowed

NUMBER = 8


def _bytes(*arrays: NDArray[np.float64]) -> bytes:
    return np.concatenate([array.ravel() for array in arrays]).astype("<f8").tobytes()


def encode(state: LearnerState) -> bytes:
    """Rows, sites, then precision and shift of the base, as little-endian 64-bit floats; after an
    answer also what is known of the paces."""
    found = _bytes(state.rows, state.sites, state.precision, state.shift)
    return found if state.followed is None else found + _encode_followed(state.followed)


def _encode_followed(followed: OneFollowed) -> bytes:
    """Evidence, days away and what faded, as 64-bit floats; a byte for each topic that has filters;
    these as 32-bit floats."""
    has = followed.masses.any(axis=(1, 2, 3))
    filters = followed.masses[has].astype("<f4")
    numbers = _bytes(followed.logs, followed.away, followed.faded)
    return numbers + has.astype(np.uint8).tobytes() + filters.tobytes()


def decode(data: bytes, prior: Prior, settings: ChangeSettings) -> LearnerState:
    """State of a course with this prior; an empty one from nothing."""
    if not data:
        return LearnerState.of(prior)
    size = prior.size
    ends = np.cumsum([size * NODES, 2 * size, size * size, size])
    flat = np.frombuffer(data, dtype="<f8", count=ends[-1]).astype(np.float64)
    rows, sites, precision, shift = np.split(flat, ends[:-1])
    rest = data[NUMBER * int(ends[-1]) :]
    followed = _decode_followed(rest, size, settings) if rest else None
    return LearnerState(
        rows.reshape(size, NODES), sites, precision.reshape(size, size), shift, followed
    )


def _decode_followed(data: bytes, size: int, settings: ChangeSettings) -> OneFollowed:
    pairs = len(settings.learning), len(settings.forgetting)
    ends = np.cumsum([pairs[0] * pairs[1], size, 2 * size])
    numbers = int(ends[-1])
    flat = np.frombuffer(data, dtype="<f8", count=numbers).astype(np.float64)
    logs, away, faded = np.split(flat, ends[:-1])
    has = np.frombuffer(data, dtype=np.uint8, count=size, offset=NUMBER * numbers).astype(bool)
    masses = np.zeros((size, *pairs, COARSE_NODES), dtype=np.float32)
    filters = np.frombuffer(data, dtype="<f4", offset=NUMBER * numbers + size)
    masses[has] = filters.reshape(-1, *pairs, COARSE_NODES)
    return OneFollowed(masses, logs.reshape(pairs), away, faded.reshape(size, 2))
