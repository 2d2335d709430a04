"""Requests to servers of others: never to an address inside, never long, never led elsewhere.

A name is looked up once, and what is connected to is what was looked at: an answer of the name
server that changes in between leads nowhere.
"""

from __future__ import annotations

import ipaddress
import socket
from collections.abc import Mapping
from dataclasses import dataclass
from time import monotonic
from urllib.parse import urlsplit

import urllib3
from django.conf import settings
from django.utils.translation import gettext

from .errors import DomainError

SECONDS, MOST_BYTES, PIECE = 10.0, 1_000_000, 65_536


class Unreachable(DomainError):
    """A server that was not reached, that took too long, or that must not be asked."""

    code = "unreachable"


@dataclass(frozen=True, slots=True)
class Reply:
    status: int
    body: bytes
    headers: Mapping[str, str]


def address_fault(url: str) -> str:
    """What is wrong with an address to send to, "" for nothing. Its name is not looked up."""
    parts = urlsplit(url)
    try:
        port = parts.port
    except ValueError:
        port = 0
    if parts.scheme not in {"http", "https"} or not parts.hostname or port == 0:
        return gettext("Write a whole address, such as https://store.example/xapi/.")
    if parts.username or parts.password or parts.fragment:
        return gettext("The address must hold no user, password or place in a page.")
    if parts.scheme == "http" and not settings.PRIVATE_ADDRESSES:
        return gettext("The address must begin with https://.")
    return ""


def ask(
    method: str,
    url: str,
    *,
    body: bytes | None = None,
    headers: Mapping[str, str] | None = None,
    seconds: float = SECONDS,
) -> Reply:
    """Send a request and return the reply. Unreachable, with the reason, where there is none."""
    if fault := address_fault(url):
        raise Unreachable(fault)
    parts = urlsplit(url)
    host = str(parts.hostname)
    port = parts.port or (443 if parts.scheme == "https" else 80)
    shown = host if parts.port is None else f"{host}:{port}"
    target = parts.path or "/"
    if parts.query:
        target = f"{target}?{parts.query}"
    timeout = urllib3.Timeout(connect=min(5.0, seconds), read=seconds)
    until = monotonic() + seconds
    address = _looked_up(host, port)
    pool: urllib3.HTTPConnectionPool
    if parts.scheme == "https":
        pool = urllib3.HTTPSConnectionPool(
            address, port, timeout=timeout, server_hostname=host, assert_hostname=host
        )
    else:
        pool = urllib3.HTTPConnectionPool(address, port, timeout=timeout)
    content = b""
    with pool:
        try:
            reply = pool.urlopen(
                method,
                target,
                body=body,
                headers={"Host": shown, "User-Agent": "Vendaval", **(headers or {})},
                redirect=False,
                retries=False,
                preload_content=False,
            )
            for piece in reply.stream(PIECE, decode_content=True):
                content += piece
                if len(content) > MOST_BYTES:
                    says = gettext("{host} answered with too much")
                    raise Unreachable(says.format(host=shown))
                if monotonic() > until:
                    raise Unreachable(gettext("{host} took too long").format(host=shown))
        except urllib3.exceptions.NewConnectionError as error:
            raise Unreachable(gettext("{host} can’t be reached").format(host=shown)) from error
        except urllib3.exceptions.TimeoutError as error:
            raise Unreachable(gettext("{host} took too long").format(host=shown)) from error
        except urllib3.exceptions.HTTPError as error:
            raise Unreachable(gettext("{host} can’t be reached").format(host=shown)) from error
    return Reply(reply.status, content, dict(reply.headers))


def _looked_up(host: str, port: int) -> str:
    """The address of a name; Unreachable for one that leads inside."""
    try:
        found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
    except (OSError, UnicodeError) as error:
        raise Unreachable(gettext("{host} is not known").format(host=host)) from error
    addresses = [str(one[4][0]) for one in found]
    if not settings.PRIVATE_ADDRESSES:
        inside = [one for one in addresses if not ipaddress.ip_address(one).is_global]
        if inside or not addresses:
            says = gettext("{host} leads to an address inside, which is not allowed")
            raise Unreachable(says.format(host=host))
    return addresses[0]
