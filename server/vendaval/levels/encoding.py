"""A state as bytes and back."""

from __future__ import annotations

import numpy as np

from vendaval_core.measure.grid import NODES
from vendaval_core.measure.posterior import LearnerState, Prior


def encode(state: LearnerState) -> bytes:
    """Rows, sites, then precision and shift of the base, as little-endian 64-bit floats."""
    arrays = (state.rows, state.sites, state.precision, state.shift)
    return np.concatenate([array.ravel() for array in arrays]).astype("<f8").tobytes()


def decode(data: bytes, prior: Prior) -> LearnerState:
    """State of a course with this prior; an empty one from nothing."""
    if not data:
        return LearnerState.of(prior)
    size = prior.size
    flat = np.frombuffer(data, dtype="<f8").astype(np.float64)
    ends = np.cumsum([size * NODES, 2 * size, size * size])
    rows, sites, precision, shift = np.split(flat, ends)
    return LearnerState(rows.reshape(size, NODES), sites, precision.reshape(size, size), shift)
