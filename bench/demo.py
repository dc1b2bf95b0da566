"""The demo, served on a free port with data of its own, and the browser that looks at it."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


@contextmanager
def served() -> Iterator[str]:
    """The address of a demo that is there until the end of the block."""
    with served_with_data() as (base, _):
        yield base


@contextmanager
def served_with_data() -> Iterator[tuple[str, Path]]:
    """The same, with the folder of its data."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    # A worker of the server may still write its last when the server has ended.
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as data:
        env = {**os.environ, "EXTENDUM_DEMO": "1", "EXTENDUM_DATA": data, "PORT": str(port)}
        env["DJANGO_SETTINGS_MODULE"] = "extendum.web.settings"
        server = subprocess.Popen([sys.executable, "-m", "extendum.web.serve"], env=env)
        try:
            yield _answering(f"http://127.0.0.1:{port}"), Path(data)
        finally:
            server.terminate()
            server.wait()


def _answering(base: str) -> str:
    for _ in range(900):
        try:
            urllib.request.urlopen(base)  # noqa: S310
            return base
        except OSError:
            time.sleep(0.1)
    raise RuntimeError(f"{base} does not answer")
