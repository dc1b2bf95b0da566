"""A self-made certificate for the address that is served, where none is given; browsers question it once."""

from __future__ import annotations

import ipaddress
import socket
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

#: Browsers take none that is valid for longer; one that ends within a month is made anew.
VALID, RENEWED_BEFORE = timedelta(days=397), timedelta(days=30)


def addresses(host: str) -> list[str]:
    """The addresses under which a host is reached: its own, or this machine's where it serves all of them."""
    if host not in ("0.0.0.0", "::"):  # noqa: S104 - compared, not bound
        return [host]
    found = []
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # sends nothing: only asks which way it would go
            found.append(probe.getsockname()[0])
        except OSError:
            pass
    return [*found, socket.gethostname(), "127.0.0.1"]


def own_certificate(folder: Path, names: list[str]) -> tuple[Path, Path]:
    """The files of a certificate for these names, and of its key; made where there is none that is still good."""
    stem = "".join(letter if letter.isalnum() else "-" for letter in names[0])
    certificate, key = folder / f"{stem}.pem", folder / f"{stem}-key.pem"
    if not (key.is_file() and _good(certificate, names)):
        folder.mkdir(parents=True, exist_ok=True)
        _make(certificate, key, names)
    return certificate, key


def _names(names: list[str]) -> list[x509.GeneralName]:
    found: list[x509.GeneralName] = []
    for name in names:
        try:
            found.append(x509.IPAddress(ipaddress.ip_address(name)))
        except ValueError:
            found.append(x509.DNSName(name))
    return found


def _good(path: Path, names: list[str]) -> bool:
    try:
        found = x509.load_pem_x509_certificate(path.read_bytes())
        told = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (OSError, ValueError, x509.ExtensionNotFound):
        return False
    return found.not_valid_after_utc - datetime.now(UTC) > RENEWED_BEFORE and list(told) == _names(names)


def _make(certificate: Path, key: Path, names: list[str]) -> None:
    secret = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Extendum at {names[0]}"[:64])])
    begins = datetime.now(UTC) - timedelta(minutes=5)
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(secret.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(begins)
        .not_valid_after(begins + VALID)
        .add_extension(x509.SubjectAlternativeName(_names(names)), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(secret, hashes.SHA256())
    )
    plain = serialization.NoEncryption()
    key.touch(mode=0o600)
    key.write_bytes(secret.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, plain))
    certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))
