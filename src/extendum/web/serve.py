"""Starts gunicorn: the demo on this machine only, or a venue's network with sign-in over TLS.

`python -m extendum.web.serve`, with HOST, PORT, CERT, KEY and EXTENDUM_WORKERS (2) from the environment; `--check` only
says what is wrong.
"""

from __future__ import annotations

import os
import socket
import sys
from pathlib import Path

LOOPBACK = ("127.0.0.1", "localhost", "::1")


class WrongError(Exception):
    """What must hold, and what was found."""


def _port() -> int:
    typed = os.environ.get("PORT", "8000")
    if not typed.isdigit() or not 1 <= int(typed) <= 65535:
        raise WrongError(f"PORT must be a number from 1 to 65535; found {typed!r}")
    return int(typed)


def _files(host: str) -> list[str]:
    """The certificate and its key; without them only this machine is answered."""
    given = {name: os.environ.get(name, "") for name in ("CERT", "KEY")}
    if not any(given.values()):
        if host in LOOPBACK:
            return []
        raise WrongError(
            f"HOST={host} needs CERT and KEY, the files of a certificate: on a network everything is encrypted.\n"
            f"For a trial make one of your own, which browsers will ask about:\n"
            f"  openssl req -x509 -newkey rsa:2048 -nodes -days 365 -subj /CN={host} "
            f"-addext subjectAltName=IP:{host} -keyout key.pem -out cert.pem\n"
            f"  make serve HOST={host} CERT=cert.pem KEY=key.pem"
        )
    for name, file in given.items():
        if not file or not Path(file).is_file():
            raise WrongError(f"{name} must be a file; found {file or 'nothing'}")
    return ["--certfile", given["CERT"], "--keyfile", given["KEY"]]


def _free(host: str, port: int) -> None:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            other = port + 1 if port < 65535 else 8000
            raise WrongError(
                f"Port {port} on {host} cannot be used ({error.strerror}). "
                f"Stop what is using it, or choose another: PORT={other}"
            ) from None


def main() -> int | None:
    """Check what was asked for, say the address, and hand over to gunicorn."""
    demo = os.environ.get("EXTENDUM_DEMO") == "1"
    host = LOOPBACK[0] if demo else os.environ.get("HOST") or LOOPBACK[0]
    try:
        port = _port()
        files = [] if demo else _files(host)
        _free(host, port)
    except WrongError as error:
        print(error, file=sys.stderr)
        return 1 if str(error).startswith("Port") else 2
    if "--check" in sys.argv:
        return 0
    if not demo:
        os.environ["EXTENDUM_HOSTS"] = ",".join(filter(None, (os.environ.get("EXTENDUM_HOSTS"), host)))
        os.environ["EXTENDUM_INSECURE"] = "" if files else "1"
    shown = f"[{host}]" if ":" in host else host
    print(f"Extendum is at {'https' if files else 'http'}://{shown}:{port}/  (Ctrl+C stops it)", flush=True)
    arguments = [
        "gunicorn",
        "extendum.web.wsgi",
        "--bind",
        f"{shown}:{port}",
        "--workers",
        os.environ.get("EXTENDUM_WORKERS", "2"),
        "--threads",
        "4",
        *files,
    ]
    return os.execv(sys.executable, [sys.executable, "-m", *arguments, "--log-level", "warning"])  # noqa: S606


if __name__ == "__main__":
    sys.exit(main())
