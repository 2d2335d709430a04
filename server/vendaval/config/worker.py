"""gunicorn's threads, which wait for a client only so long.

A request that is sent in halves holds a thread until its other half comes. Here the system ends
such a wait. Whoever sends a byte at a time is for the proxy in front: see `deploy/nginx.conf`.
"""

from __future__ import annotations

import socket
import struct
from typing import Any

from gunicorn.workers.gthread import ThreadWorker  # type: ignore[import-untyped]

PATIENCE_SECONDS = 5


class PatientWorker(ThreadWorker):  # type: ignore[misc]
    """A thread worker whose sockets give up receiving and sending after five seconds."""

    def handle(self, conn: Any) -> Any:
        patience = struct.pack("ll", PATIENCE_SECONDS, 0)
        conn.sock.setsockopt(socket.SOL_SOCKET, socket.SO_RCVTIMEO, patience)
        conn.sock.setsockopt(socket.SOL_SOCKET, socket.SO_SNDTIMEO, patience)
        return super().handle(conn)
