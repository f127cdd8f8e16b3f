"""How a shop is reached from other machines: the names it goes by, its certificate, and what is shown of both."""

from __future__ import annotations

import os
import socket
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

#: A certificate made on the spot is good for so long, and made anew when less than this is left.
LASTS, ANEW = timedelta(days=397), timedelta(days=30)
#: Reached without a packet being sent; only which of our addresses would be used is asked.
ELSEWHERE = ("198.51.100.1", 9)


class CertificateError(RuntimeError):
    """The certificate cannot be used; the message is a plain sentence."""


@dataclass(frozen=True, slots=True)
class Shared:
    """What a web server needs to serve others: its names, address, certificate and key."""

    names: tuple[str, ...]
    address: str
    certificate: Path
    key: Path
    fingerprint: str


def own_names() -> tuple[str, ...]:
    """Names and addresses under which this machine is reached from others."""
    host = socket.gethostname().lower()
    found = [host, f"{host.split('.')[0]}.local"]
    with suppress(OSError), socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        probe.connect(ELSEWHERE)
        found.append(probe.getsockname()[0])
    with suppress(OSError):
        found += [str(info[4][0]) for info in socket.getaddrinfo(host, None, socket.AF_INET)]
    return tuple(dict.fromkeys(name for name in found if not name.startswith("127.")))


def shared(folder: Path, port: int, further: tuple[str, ...], own: tuple[Path, Path] | None) -> Shared:
    """A shop on a port, by its own names and further ones, with a certificate of its own or one made here.

    Raises CertificateError.
    """
    names = tuple(dict.fromkeys([*(name.lower() for name in further), *own_names()]))
    certificate, key = own if own is not None else made(folder, names)
    first = further[0].lower() if further else _address_of(names)
    return Shared(names, f"https://{first}:{port}/", certificate, key, fingerprint(certificate))


def _address_of(names: tuple[str, ...]) -> str:
    """What others can reach for certain: an address rather than a name that they may not know."""
    return next((name for name in names if _is_address(name)), names[0])


def _is_address(name: str) -> bool:
    try:
        ip_address(name)
    except ValueError:
        return False
    return True


def fingerprint(certificate: Path) -> str:
    """SHA-256 of a certificate as browsers show it. Raises CertificateError."""
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes

    try:
        read = x509.load_pem_x509_certificate(certificate.read_bytes())
    except (OSError, ValueError) as error:
        raise CertificateError(f"{certificate} is no certificate that can be read.") from error
    if read.not_valid_after_utc < datetime.now(UTC):
        raise CertificateError(f"The certificate {certificate} ended on {read.not_valid_after_utc:%b %-d, %Y}.")
    return read.fingerprint(hashes.SHA256()).hex(":").upper()


def made(folder: Path, names: tuple[str, ...]) -> tuple[Path, Path]:
    """A certificate that this machine signs itself, kept while its names are these and it is good for a while yet."""
    certificate, key = folder / "certificate.pem", folder / "certificate-key.pem"
    if not (certificate.exists() and key.exists() and _still_good(certificate, names)):
        _make(certificate, key, names)
    return certificate, key


def _still_good(certificate: Path, names: tuple[str, ...]) -> bool:
    from cryptography import x509

    try:
        read = x509.load_pem_x509_certificate(certificate.read_bytes())
        held = read.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (OSError, ValueError, x509.ExtensionNotFound):
        return False
    known = {*held.get_values_for_type(x509.DNSName), *map(str, held.get_values_for_type(x509.IPAddress))}
    return known >= set(names) and read.not_valid_after_utc > datetime.now(UTC) + ANEW


def _make(certificate: Path, key: Path, names: tuple[str, ...]) -> None:
    """An elliptic key on P-256, and a certificate for all names of this machine (RFC 5280)."""
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes, serialization
    from cryptography.hazmat.primitives.asymmetric import ec
    from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

    private = ec.generate_private_key(ec.SECP256R1())
    who = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Pulltide Gear in this shop")])
    all_names = (*names, "localhost", "127.0.0.1")
    alternatives = [x509.IPAddress(ip_address(name)) if _is_address(name) else x509.DNSName(name) for name in all_names]
    moment = datetime.now(UTC)
    signed = (
        x509.CertificateBuilder()
        .subject_name(who)
        .issuer_name(who)
        .public_key(private.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(moment - timedelta(hours=1))
        .not_valid_after(moment + LASTS)
        .add_extension(x509.SubjectAlternativeName(alternatives), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(private, hashes.SHA256())
    )
    secret = private.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
    _written(key, secret)
    _written(certificate, signed.public_bytes(serialization.Encoding.PEM))


def _written(place: Path, content: bytes) -> None:
    """Beside, for nobody else to read, then in its place."""
    beside = place.with_suffix(".new")
    beside.unlink(missing_ok=True)
    with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        file.write(content)
    beside.rename(place)


def announcement(share: Shared) -> str:
    """What is said at the start: address, fingerprint, and a code that a phone reads."""
    from io import StringIO

    import segno

    code = StringIO()
    segno.make(share.address, error="m", micro=False).terminal(out=code, compact=True)
    return (
        f"Others reach this shop at {share.address}\n{code.getvalue()}\n"
        f"SHA-256 fingerprint of its certificate, to compare with what a browser shows the first time:\n"
        f"{share.fingerprint}"
    )
