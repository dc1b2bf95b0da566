"""Starts the server: the demo on this machine only, or a venue's network with sign-in over TLS.

`python -m extendum.web.serve`, with HOST, PORT, CERT, KEY, EXTENDUM_DATA and EXTENDUM_WORKERS (2) from the environment.
`--check` only says what is wrong; `--demo` starts with demo data and opens the browser where there is one;
`--prepare` makes the tables and styles and stops.
"""

from __future__ import annotations

import os
import resource
import socket
import ssl
import subprocess
import sys
import threading
import webbrowser
from dataclasses import dataclass
from pathlib import Path

import segno

from extendum.core.model.limits import whole_number
from extendum.web.certificate import addresses, own_certificate

LOOPBACK = ("127.0.0.1", "localhost", "::1")
#: Connections that are still sending are not waited for longer than this when the server is stopped.
STOPS_WITHIN_S = 5
#: The browser is opened when the server answers; it is asked for that so long.
ANSWERS_WITHIN_S = 30


class WrongError(Exception):
    """What must hold, and what was found."""


@dataclass(frozen=True, slots=True)
class Served:
    """What is served where: the address to bind, the files of a certificate, and the address to open."""

    host: str
    port: int
    certificate: Path | None
    key: Path | None
    names: list[str]
    own: bool

    @property
    def address(self) -> str:
        """What is typed into a browser."""
        shown = f"[{self.names[0]}]" if ":" in self.names[0] else self.names[0]
        return f"{'https' if self.certificate else 'http'}://{shown}:{self.port}/"


def _port() -> int:
    typed = os.environ.get("PORT", "8000")
    found = whole_number(typed, 1, 65535)
    if found is None:
        raise WrongError(f"PORT must be a number from 1 to 65535; found {typed[:40]!r}")
    return found


def _given() -> tuple[Path, Path] | None:
    """The files of CERT and KEY, together; None where neither is given."""
    given = {name: os.environ.get(name, "") for name in ("CERT", "KEY")}
    if not any(given.values()):
        return None
    for name, file in given.items():
        if not file or not Path(file).is_file():
            raise WrongError(f"{name} must be a file; found {file or 'nothing'}")
    try:
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(given["CERT"], given["KEY"])
    except (ssl.SSLError, OSError) as error:
        raise WrongError(f"CERT and KEY must be a certificate and its key, in PEM; found {error}") from None
    return Path(given["CERT"]), Path(given["KEY"])


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


def _asked(demo: bool) -> Served:
    """What the environment asks for; without a certificate one of our own is made, where others can reach it."""
    host = LOOPBACK[0] if demo else os.environ.get("HOST") or LOOPBACK[0]
    port, given = _port(), None if demo else _given()
    _free(host, port)
    names = addresses(host)
    if given is None and host not in LOOPBACK:
        folder = Path(os.environ.get("EXTENDUM_DATA", "var")).resolve() / "certificates"
        made, made_key = own_certificate(folder, names)
        return Served(host, port, made, made_key, names, own=True)
    certificate, key = given or (None, None)
    return Served(host, port, certificate, key, names, own=False)


def _say(served: Served, demo: bool) -> None:
    print(f"Extendum is at {served.address}  (Ctrl+C stops it)")
    if served.own:
        print(
            f"It has a certificate of its own, made for {', '.join(served.names)} and kept in {served.certificate}.\n"
            "Browsers ask about it once: choose to go on. With CERT=... KEY=... it takes yours."
        )
    if not demo and served.host not in LOOPBACK:
        segno.make(served.address, micro=False).terminal(compact=True)
        print("A phone's camera opens the address from this square. Screens and clickers have squares of their own.")
    sys.stdout.flush()


def _prepare(demo: bool) -> None:
    """Tables, styles, and the demo's classes."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "extendum.web.settings")
    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0)
    if demo:
        call_command("load_demo")
    call_command("collectstatic", interactive=False, verbosity=0)


def _more_files() -> None:
    """As many open files as the system allows: each connection that is only half there is one."""
    _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
    resource.setrlimit(resource.RLIMIT_NOFILE, (min(most, 65_536) if most > 0 else 65_536, most))


def _open_browser(address: str) -> None:
    """Open the page when the server answers; where there is no browser nothing happens."""
    host, _, port = address.removeprefix("http://").rstrip("/").rpartition(":")

    def when_it_answers() -> None:
        wait = threading.Event()
        for _ in range(ANSWERS_WITHIN_S * 5):
            with socket.socket() as probe:
                if probe.connect_ex((host, int(port))) == 0:
                    webbrowser.open(address)
                    return
            wait.wait(0.2)

    threading.Thread(target=when_it_answers, daemon=True).start()


def main() -> int:
    """Check what was asked for, prepare the data, say the address, and serve."""
    if "--demo" in sys.argv:
        os.environ["EXTENDUM_DEMO"] = "1"
    demo = os.environ.get("EXTENDUM_DEMO") == "1"
    if "--prepare" in sys.argv:
        _prepare(demo)
        return 0
    try:
        served = _asked(demo)
    except WrongError as error:
        print(error, file=sys.stderr)
        return 1 if str(error).startswith("Port") else 2
    if "--check" in sys.argv:
        return 0
    if not demo:
        hosts = (os.environ.get("EXTENDUM_HOSTS", ""), *served.names)
        os.environ["EXTENDUM_HOSTS"] = ",".join(filter(None, hosts))
        os.environ["EXTENDUM_INSECURE"] = "" if served.certificate else "1"
        os.environ["EXTENDUM_OWN_CERTIFICATE"] = "1" if served.own else ""
    # In a process of its own: the one that only watches the servers stays small.
    prepared = subprocess.run([sys.executable, "-m", "extendum.web.serve", "--prepare"], check=False)
    if prepared.returncode:
        return prepared.returncode
    _more_files()
    _say(served, demo)
    if "--demo" in sys.argv:
        _open_browser(served.address)
    import uvicorn

    uvicorn.run(
        "extendum.web.whole:application",
        host=served.host,
        port=served.port,
        workers=whole_number(os.environ.get("EXTENDUM_WORKERS", ""), 1, 64) or 2,
        ssl_certfile=served.certificate,
        ssl_keyfile=served.key,
        log_level="warning",
        access_log=False,
        server_header=False,
        proxy_headers=False,
        lifespan="off",
        timeout_graceful_shutdown=STOPS_WITHIN_S,
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
