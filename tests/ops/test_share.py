"""Sharing for real: refused without an owner, over TLS alone, its certificate shown, kept and made anew."""

from __future__ import annotations

import re
import socket
import ssl
import subprocess
import sys
from hashlib import sha256
from http.cookiejar import CookieJar
from pathlib import Path
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import HTTPCookieProcessor, HTTPSHandler, build_opener, urlopen

import pytest

from ops.test_start import Started, folder, start  # noqa: F401  (fixtures)
from pulltide.ops.cluster import free_port
from pulltide.ops.sharing import CertificateError, fingerprint, made, own_names, shared

GOOD = "seven herons by the weir"


def people(data: Path, *arguments: str, given: str = "") -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "pulltide.ops.people", "--data", str(data), *arguments]
    return subprocess.run(command, input=given, capture_output=True, text=True, timeout=120, check=False)


def test_sharing_is_refused_without_an_owner_then_goes_over_tls_alone(folder, start):  # noqa: F811
    port = free_port(18800)
    refused = start(folder, port, "--share")
    assert refused.process.wait(60) == 1
    assert "./script/people add NAME --role owner" in refused.first_line
    short = people(folder, "add", "Ada Rill", "--role", "owner", "--password-stdin", given="short\n")
    assert short.returncode == 1
    assert "12 to 128" in short.stderr
    assert people(folder, "list").stdout == "Nobody yet.\n"
    added = people(folder, "add", "Ada Rill", "--role", "owner", "--password-stdin", given=f"{GOOD}\n")
    assert added.stdout == "Ada Rill comes in as owner.\n", added.stderr
    started: Started = start(folder, port, "--share", "--name", "shop.test")
    assert f"https://shop.test:{port}/" in started.first_line
    presented = ssl.get_server_certificate(("127.0.0.1", port))
    digest = sha256(ssl.PEM_cert_to_DER_cert(presented)).hexdigest().upper()
    assert ":".join(re.findall("..", digest)) in started.first_line
    assert stat_of(folder / "certificate-key.pem") == 0o600
    with pytest.raises((URLError, OSError)):
        urlopen(f"http://127.0.0.1:{port}/healthz", timeout=5)
    trusting = ssl.create_default_context(cadata=presented)
    browser = build_opener(HTTPSHandler(context=trusting), HTTPCookieProcessor(CookieJar()))
    page = browser.open(f"https://127.0.0.1:{port}/", timeout=20).read().decode()
    assert 'name="password"' in page
    token = re.search(r'name="form-token" content="([^"]+)"', page)[1]
    fields = urlencode({"name": "ada rill", "password": GOOD, "form_token": token}).encode()
    floor = browser.open(f"https://127.0.0.1:{port}/sign-in", fields, timeout=30).read().decode()
    assert "Shop floor" in floor
    assert "Ada Rill" in floor
    link = people(folder, "link", "Ada Rill").stdout
    assert re.search(rf"https://shop\.test:{port}/welcome/\S+", link)
    assert people(folder, "leave", "Ada Rill").returncode == 1, "the last owner stays"
    assert link.split("/welcome/")[1].strip() not in (folder / "server.log").read_text()
    assert started.stop() == 0


def stat_of(file: Path) -> int:
    return file.stat().st_mode & 0o777


def test_a_certificate_is_kept_while_it_fits_and_made_anew_when_it_does_not(tmp_path: Path):
    names = ("shop.test", "192.0.2.7")
    first, key = made(tmp_path, names)
    print_ = fingerprint(first)
    assert fingerprint(made(tmp_path, names)[0]) == print_
    assert fingerprint(made(tmp_path, (*names, "shed.test"))[0]) != print_
    first.write_text("spoilt")
    assert fingerprint(made(tmp_path, names)[0]) != print_
    context = ssl.create_default_context(ssl.Purpose.CLIENT_AUTH)
    context.load_cert_chain(first, key)


def test_a_certificate_of_ones_own_is_used_and_one_that_is_none_refused(tmp_path: Path):
    own = made(tmp_path, ("own.test",))
    share = shared(tmp_path / "data", 8420, ("own.test",), own)
    assert (share.certificate, share.address) == (own[0], "https://own.test:8420/")
    none = tmp_path / "none.pem"
    none.write_text("no certificate")
    with pytest.raises(CertificateError, match="no certificate that can be read"):
        shared(tmp_path, 8420, (), (none, none))


def test_the_names_of_this_machine_hold_its_own_and_none_that_only_it_knows():
    names = own_names()
    assert socket.gethostname().lower() in names
    assert not [name for name in names if name.startswith("127.")]
