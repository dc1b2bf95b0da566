"""Requests reach the application whole: whoever sends slowly holds a socket, never one of the few threads.

The server (uvicorn) reads heads and bodies of any number of connections at once; here a body is collected, within
bounds, before a thread is asked to answer. A body that is too large is read to its end without being kept, so that its
sender gets an answer instead of a broken pipe, and one that does not come is not waited for.
"""

from __future__ import annotations

import asyncio
import tempfile
from collections.abc import Awaitable, Callable, MutableMapping
from http.cookies import SimpleCookie
from importlib import import_module
from typing import Any, cast

from a2wsgi import WSGIMiddleware
from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.db import connection

from extendum.core.model.limits import LARGEST_POST, LARGEST_SOUND, LARGEST_UNSIGNED
from extendum.web.wsgi import application as answers

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
App = Callable[[Message, Receive, Send], Awaitable[None]]

#: Threads of one process that answer requests; each keeps its connection to the database.
THREADS = 12
#: A body that has not come within so long is not waited for; of one that is too large so much is read and thrown away.
BODY_WITHIN_S, MOST_THROWN_AWAY = 60.0, 100_000_000
#: Of a body so much is kept in memory, the rest in a file; it is handed on in pieces.
KEPT, PIECE = 256_000, 64_000
#: Under these addresses recordings come, which are larger than anything else.
SOUND = "/sound/"
#: Tells the application that a body was too large; what comes from outside under this name is dropped.
TOO_LARGE = b"x-extendum-too-large"


class Whole:
    """An ASGI application that hands a request on when all of it is there."""

    def __init__(self, inner: App) -> None:
        self.inner = inner

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        """One request."""
        if scope["type"] != "http":
            return
        headers = [(name, value) for name, value in scope["headers"] if name != TOO_LARGE]
        most = _most(headers)
        if (
            most == LARGEST_POST
            and scope.get("path", "").startswith(SOUND)
            and await asyncio.to_thread(_signed_in, headers)
        ):
            most = LARGEST_SOUND
        # Exiting removes the file, where there was one.
        with tempfile.SpooledTemporaryFile(KEPT) as body:
            try:
                size = await asyncio.wait_for(_collect(receive, body, most), BODY_WITHIN_S)
            except TimeoutError:
                await _late(send)
                return
            if size is None:  # gone before all of it was told
                return
            if size > most:
                headers.append((TOO_LARGE, str(most).encode()))
            body.seek(0)
            told = False

            async def again() -> Message:
                nonlocal told
                if told:
                    return await receive()
                piece = body.read(PIECE)
                told = len(piece) < PIECE
                return {"type": "http.request", "body": piece, "more_body": not told}

            await self.inner({**scope, "headers": headers}, again, send)


def _most(headers: list[tuple[bytes, bytes]]) -> int:
    """How large a body may be: less for whoever shows no sign of an account."""
    signed = settings.SESSION_COOKIE_NAME.encode() + b"="
    return LARGEST_POST if any(name == b"cookie" and signed in value for name, value in headers) else LARGEST_UNSIGNED


def _signed_in(headers: list[tuple[bytes, bytes]]) -> bool:
    """Whether a request comes from somebody with an account, and does not only look like it."""
    cookies = SimpleCookie(b"; ".join(value for name, value in headers if name == b"cookie").decode("latin-1"))
    key = cookies[settings.SESSION_COOKIE_NAME].value if settings.SESSION_COOKIE_NAME in cookies else ""
    session = import_module(settings.SESSION_ENGINE).SessionStore(key)
    try:
        return SESSION_KEY in session
    finally:
        connection.close()


async def _collect(receive: Receive, body: Any, most: int) -> int | None:
    """Read a body into a file; gives its size, of one that is too large nothing is kept. None: the sender went away."""
    size = 0
    while True:
        message = await receive()
        if message["type"] == "http.disconnect":
            return None
        piece = message.get("body", b"")
        size += len(piece)
        if size <= most:
            body.write(piece)
        elif body.tell():
            body.seek(0)
            body.truncate()
        if not message.get("more_body") or size > MOST_THROWN_AWAY:
            return size


async def _late(send: Send) -> None:
    text = b"The request did not come to its end in time. Nothing was changed."
    headers = [(b"content-type", b"text/plain; charset=utf-8"), (b"connection", b"close")]
    await send({"type": "http.response.start", "status": 408, "headers": headers})
    await send({"type": "http.response.body", "body": text})


# The types of three libraries name the same interfaces each in its own way.
application = Whole(cast(App, WSGIMiddleware(cast(Any, answers), workers=THREADS)))
