"""Starts gunicorn for the demo on this machine only: `python -m extendum.web.serve`."""

import os
import socket
import sys

HOST = "127.0.0.1"


def main() -> int | None:
    """Check the port, say the address, and hand over to gunicorn."""
    typed = os.environ.get("PORT", "8000")
    if not typed.isdigit() or not 1 <= int(typed) <= 65535:
        print(f"PORT must be a number from 1 to 65535; found {typed!r}", file=sys.stderr)
        return 2
    port = int(typed)
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except OSError as error:
            print(
                f"Port {port} on {HOST} cannot be used ({error.strerror}). "
                f"Stop what is using it, or choose another: make demo PORT={port + 1 if port < 65535 else 8000}",
                file=sys.stderr,
            )
            return 1
    print(f"Extendum is at http://{HOST}:{port}/  (Ctrl+C stops it)", flush=True)
    arguments = ["gunicorn", "extendum.web.wsgi", "--bind", f"{HOST}:{port}", "--workers", "2", "--threads", "4"]
    return os.execv(sys.executable, [sys.executable, "-m", *arguments, "--log-level", "warning"])  # noqa: S606


if __name__ == "__main__":
    sys.exit(main())
