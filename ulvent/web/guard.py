"""What stands before every request: host, origin, size, and headers of the answer.

Ulvent listens on loopback and has no accounts, so the danger is another page in
the same browser. A page elsewhere cannot send our Host unless it has taken our
name (DNS rebinding), nor our Origin; both are held against a fixed list.
"""

from __future__ import annotations

from http import HTTPStatus

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ulvent.crew import given_back
from ulvent.formats.fonts.font_file import LARGEST_FONT
from ulvent.formats.json_file import LARGEST
from ulvent.web.problems import Problem, answer

_NAMES = ("127.0.0.1", "localhost", "[::1]")
_FONTS = "/api/faces"
_LARGE = 1_000_000
"""bytes of a request and its answer, after which memory is given back: a list of 50,000 rows, read
and written, leaves tens of megabytes in pieces too small to be used again."""
_SAFE_METHODS = ("GET", "HEAD", "OPTIONS")

SECURITY_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self'; "
        "img-src 'self' data:; font-src 'self'; connect-src 'self'; "
        "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
    ),
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
}


class _TooLargeError(Exception):
    """The body went on past what is read."""


class Guard:
    """ASGI middleware round the whole application."""

    def __init__(self, app: ASGIApp, port: int) -> None:
        self._app = app
        self._hosts = {f"{name}:{port}" for name in _NAMES}
        self._origins = {f"http://{host}" for host in self._hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refusal = self._refusal(scope, headers)
        if scope["type"] == "websocket":
            if refusal:
                await receive()
                await send({"type": "websocket.close", "code": 1008, "reason": refusal})
            else:
                await self._app(scope, receive, send)
            return
        if refusal:
            await _refuse(HTTPStatus.FORBIDDEN, refusal, scope, receive, send)
            return
        await self._pass_on(scope, headers, receive, send)

    def _refusal(self, scope: Scope, headers: Headers) -> str:
        """Why this request is not for us; empty when it is."""
        if headers.get("host", "").lower() not in self._hosts:
            return "this address is not one that Ulvent serves"
        origin = headers.get("origin")
        wants_origin = scope["type"] == "websocket" or scope["method"] not in _SAFE_METHODS
        if origin is None:
            # Programs without pages send none; a browser always does where it matters.
            if scope["type"] == "websocket":
                return "the live channel is for Ulvent's own pages"
            return (
                "what is written without an origin must be JSON"
                if wants_origin and not _json(headers)
                else ""
            )
        if wants_origin and origin.lower() not in self._origins:
            return "requests from other pages are not taken"
        return ""

    async def _pass_on(self, scope: Scope, headers: Headers, receive: Receive, send: Send) -> None:
        largest = LARGEST_FONT if scope["path"] == _FONTS else LARGEST
        too_large = f"a request may have at most {largest} bytes"
        declared = headers.get("content-length", "0")
        if not declared.isdigit() or int(declared) > largest:
            await _refuse(HTTPStatus.REQUEST_ENTITY_TOO_LARGE, too_large, scope, receive, send)
            return
        received = sent = 0
        answered = False

        async def counted() -> Message:
            nonlocal received
            message = await receive()
            received += len(message.get("body", b""))
            if received > largest:
                raise _TooLargeError
            return message

        async def with_headers(message: Message) -> None:
            nonlocal answered, sent
            if message["type"] == "http.response.start":
                answered = True
                _add_headers(message)
            sent += len(message.get("body", b""))
            await send(message)

        try:
            await self._app(scope, counted, with_headers)
        except _TooLargeError:
            if not answered:
                await _refuse(HTTPStatus.REQUEST_ENTITY_TOO_LARGE, too_large, scope, receive, send)
        finally:
            if received + sent > _LARGE:
                await run_in_threadpool(given_back)


def _json(headers: Headers) -> bool:
    """Whether the body is said to be JSON, which no form of a page elsewhere can say; or empty."""
    kind = headers.get("content-type", "").partition(";")[0].strip().lower()
    empty = headers.get("content-length", "0") == "0" and "transfer-encoding" not in headers
    return kind == "application/json" or (not kind and empty)


def _add_headers(message: Message) -> None:
    headers = MutableHeaders(scope=message)
    for name, value in SECURITY_HEADERS.items():
        headers[name] = value


async def _refuse(
    status: HTTPStatus, detail: str, scope: Scope, receive: Receive, send: Send
) -> None:
    async def with_headers(message: Message) -> None:
        if message["type"] == "http.response.start":
            _add_headers(message)
        await send(message)

    problem = Problem(title=status.phrase, status=status, detail=detail)
    await answer(problem)(scope, receive, with_headers)
