"""HTTPS in the bay without a proxy: a certificate authority of this machine's own, and a certificate for its addresses.

No Django in here. `python -m config.lan FOLDER` keeps both in FOLDER and prints, as JSON, what they stand for.
"""

from __future__ import annotations

import json
import os
import socket
import sys
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from datetime import UTC, datetime, timedelta
from ipaddress import IPv4Address, IPv6Address, ip_address, ip_network
from pathlib import Path

import ifaddr
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY, AUTHORITY_KEY = "authority.crt", "authority.key"
LEAF, LEAF_KEY = "server.crt", "server.key"
AUTHORITY_YEARS = 10
LEAF_DAYS = 365  # some tablets refuse a certificate of more than 825 days, even from an authority they trust
RENEWED_BEFORE = timedelta(days=30)
# a stolen authority is good for this machine's names and for addresses of local networks alone
LOCAL_NETWORKS = (
    *("127.0.0.0/8", "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "100.64.0.0/10"),
    *("::1/128", "fc00::/7", "fe80::/10"),
)
Address = IPv4Address | IPv6Address


class NamesChanged(Exception):
    """The machine has another name than the authority may speak for; the words say what to do."""


@dataclass(frozen=True)
class Kept:
    """What the certificate is for. changed: it was made just now; fingerprint: of the authority, SHA-256."""

    names: list[str]
    addresses: list[str]
    fingerprint: str
    ends: str
    changed: bool


def host_names(host: str | None = None) -> list[str]:
    """Names that this machine is called by in a local network.

    >>> host_names("Bay-PC.example.org")
    ['bay-pc.example.org', 'bay-pc.local', 'localhost']
    """
    name = (host or socket.gethostname()).lower().rstrip(".")
    return list(dict.fromkeys([name, f"{name.split('.')[0]}.local", "localhost"]))


def local_addresses() -> list[str]:
    """Addresses of this machine in local networks, those that others reach first; loopback last."""
    found: list[Address] = []
    for adapter in ifaddr.get_adapters():
        for ip in adapter.ips:
            address = ip_address(ip.ip if isinstance(ip.ip, str) else ip.ip[0])
            if not address.is_loopback and not (address.version == 6 and address.is_link_local):
                found.append(address)
    return [str(one) for one in sorted(set(found), key=lambda one: (one.version, int(one))) if _is_local(one)] + [
        "127.0.0.1"
    ]


def _is_local(address: Address) -> bool:
    return any(address in ip_network(net) for net in LOCAL_NETWORKS if ip_network(net).version == address.version)


def keep(folder: Path, names: list[str], addresses: Iterable[str], now: datetime) -> Kept:
    """The authority (made once), and a certificate for these names and addresses (made again where it has to be).

    Raises NamesChanged where the authority may not speak for a name, OSError where nothing can be written.
    """
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    folder.chmod(0o700)
    authority, key = _authority(folder, names, now)
    permitted = _permitted_names(authority)
    for name in names:
        if not any(name == one or name.endswith(f".{one}") for one in permitted):
            raise NamesChanged(
                f"This machine is called {name} now; its certificate authority speaks for {', '.join(permitted)} alone. "
                f"Give it its name back, or remove the folder {folder}: then a new authority is made, "
                "and every device has to trust it again."
            )
    wanted = [str(ip_address(one)) for one in addresses]
    changed = not _is_good(folder, authority, names, wanted, now)
    if changed:
        _make_leaf(folder, authority, key, names, wanted, now)
    leaf = x509.load_pem_x509_certificate((folder / LEAF).read_bytes())
    ends = leaf.not_valid_after_utc.isoformat(timespec="seconds")
    return Kept(names, wanted, fingerprint(authority), ends, changed)


def fingerprint(certificate: x509.Certificate) -> str:
    """SHA-256, as devices show it: pairs of hexadecimal digits."""
    return ":".join(f"{byte:02X}" for byte in certificate.fingerprint(hashes.SHA256()))


def authority_in(folder: Path) -> x509.Certificate | None:
    """The authority's certificate; None where there is none."""
    path = folder / AUTHORITY
    return x509.load_pem_x509_certificate(path.read_bytes()) if path.is_file() else None


def _authority(folder: Path, names: list[str], now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    known = authority_in(folder)
    if known is not None and known.not_valid_after_utc > now + timedelta(days=LEAF_DAYS):
        loaded = serialization.load_pem_private_key((folder / AUTHORITY_KEY).read_bytes(), None)
        if not isinstance(loaded, ec.EllipticCurvePrivateKey):
            raise OSError(f"{folder / AUTHORITY_KEY} is not the key that was made for it.")
        return known, loaded
    key = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Temper on {names[0]}"[:64])])
    permitted: list[x509.GeneralName] = [x509.DNSName(name) for name in names]
    permitted += [x509.IPAddress(ip_network(net)) for net in LOCAL_NETWORKS]
    builder = _certificate(subject, subject, key.public_key(), now, timedelta(days=365 * AUTHORITY_YEARS))
    builder = builder.add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
    builder = builder.add_extension(x509.NameConstraints(permitted, None), critical=True)
    builder = builder.add_extension(_usage(signs_certificates=True), critical=True)
    builder = builder.add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
    made = builder.sign(key, hashes.SHA256())
    _write(folder / AUTHORITY_KEY, _pem_of(key))
    _write(folder / AUTHORITY, made.public_bytes(serialization.Encoding.PEM))
    return made, key


def _permitted_names(authority: x509.Certificate) -> list[str]:
    permitted = authority.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
    return [name.value for name in permitted if isinstance(name, x509.DNSName)]


def _is_good(folder: Path, authority: x509.Certificate, names: list[str], addresses: list[str], now: datetime) -> bool:
    if not (folder / LEAF).is_file() or not (folder / LEAF_KEY).is_file():
        return False
    leaf = x509.load_pem_x509_certificate((folder / LEAF).read_bytes())
    said = leaf.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    same = set(said.get_values_for_type(x509.DNSName)) == set(names)
    same = same and {str(one) for one in said.get_values_for_type(x509.IPAddress)} == set(addresses)
    signed = leaf.extensions.get_extension_for_class(x509.AuthorityKeyIdentifier).value.key_identifier
    own = authority.extensions.get_extension_for_class(x509.SubjectKeyIdentifier).value.digest
    return same and signed == own and leaf.not_valid_before_utc <= now < leaf.not_valid_after_utc - RENEWED_BEFORE


def _make_leaf(
    folder: Path,
    authority: x509.Certificate,
    key: ec.EllipticCurvePrivateKey,
    names: list[str],
    addresses: list[str],
    now: datetime,
) -> None:
    own = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, names[0][:64])])
    called: list[x509.GeneralName] = [x509.DNSName(name) for name in names]
    called += [x509.IPAddress(ip_address(one)) for one in addresses]
    builder = _certificate(subject, authority.subject, own.public_key(), now, timedelta(days=LEAF_DAYS))
    builder = builder.add_extension(x509.SubjectAlternativeName(called), critical=False)
    builder = builder.add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
    builder = builder.add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
    builder = builder.add_extension(_usage(signs_certificates=False), critical=True)
    issuer = x509.AuthorityKeyIdentifier.from_issuer_public_key(key.public_key())
    made = builder.add_extension(issuer, critical=False).sign(key, hashes.SHA256())
    _write(folder / LEAF_KEY, _pem_of(own))
    _write(folder / LEAF, made.public_bytes(serialization.Encoding.PEM))


def _certificate(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, now: datetime, lasts: timedelta
) -> x509.CertificateBuilder:
    begun = now - timedelta(days=1)  # a tablet whose clock is behind
    builder = x509.CertificateBuilder().subject_name(subject).issuer_name(issuer).public_key(key)
    return builder.serial_number(x509.random_serial_number()).not_valid_before(begun).not_valid_after(now + lasts)


def _usage(signs_certificates: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs_certificates,
        key_cert_sign=signs_certificates,
        crl_sign=signs_certificates,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _pem_of(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())


def _write(path: Path, data: bytes) -> None:
    """Whole or not at all, for the server's user alone."""
    part = path.with_name(f"{path.name}.part")
    with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as out:
        out.write(data)
    part.replace(path)


def main(words: list[str]) -> int:
    """Keep both in a folder; with an address as the second word print its QR code instead, for a terminal."""
    if len(words) > 1:
        import segno

        segno.make(words[1], micro=False).terminal(compact=True)
        return 0
    try:
        kept = keep(Path(words[0]), host_names(), local_addresses(), datetime.now(UTC))
    except (NamesChanged, OSError) as error:
        print(error, file=sys.stderr)
        return 1
    print(json.dumps(asdict(kept)))
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
