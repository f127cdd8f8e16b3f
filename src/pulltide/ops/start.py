"""Starts the database and the web server, says where, and stops both together."""

from __future__ import annotations

import argparse
import fcntl
import os
import secrets
import signal
import socket
import ssl
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from hashlib import sha256
from http.client import HTTPException
from pathlib import Path
from types import FrameType
from urllib.error import URLError
from urllib.request import urlopen

from pulltide.ops.backup import dump, folder_of
from pulltide.ops.cluster import Cluster, ClusterError, home_for, open_log, put_aside_when_large
from pulltide.ops.holder import holder_of
from pulltide.ops.home import FORMER, data_folder, holds_a_shop, moved
from pulltide.ops.hook_stand_in import MODES as HOOK_MODES
from pulltide.ops.instrument_stand_in import MODES as INSTRUMENT_MODES
from pulltide.ops.price_stand_in import MODES
from pulltide.ops.sharing import CertificateError, Shared, announcement, shared
from pulltide.store.accounts import PostgresAccounts
from pulltide.store.database import connect, current_revision, migrate, newest_revision, revisions
from pulltide.store.process import end_with_parent

PORT, LOOPBACK, EVERYWHERE = 8420, "127.0.0.1", "0.0.0.0"
READY_SECONDS = 60.0
PORT_SECONDS = 3.0
#: How long a request in flight is given when the program is stopped.
GRACE_SECONDS = "1"
#: How long the web server is then given to end; whatever was acknowledged is saved by then.
END_SECONDS = 1.5
#: So many connections a process answers at once; more are told to come again.
MAX_CONNECTIONS = "400"
#: How often the database server is looked after.
WATCH_SECONDS = 0.5


class StartError(RuntimeError):
    """The program cannot be started; the message is a plain sentence."""


@contextmanager
def only_one(run: Path) -> Iterator[None]:
    """Hold the project's start lock; a second start is told where the first one runs."""
    try:
        run.mkdir(parents=True, exist_ok=True)
        lock = (run / "start.lock").open("a+")
    except OSError as error:
        raise StartError(f"The folder {run} cannot be written: {error.strerror}.") from error
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError as error:
        address = run / "address"
        where = address.read_text().strip() if address.exists() else "another address"
        raise StartError(f"Pulltide Gear already runs from this folder at {where}. Stop that one first.") from error
    try:
        yield
    finally:
        lock.close()


def check_port(port: int, host: str = LOOPBACK) -> None:
    """Refuse a port that is taken or not allowed; a server of a killed run is given a moment to end."""
    deadline = time.monotonic() + PORT_SECONDS
    while True:
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except PermissionError as error:
                raise StartError(f"Port {port} needs more rights than you have. Choose one above 1023.") from error
            except OSError as error:
                if time.monotonic() > deadline:
                    taken = f"Port {port} is taken by {holder_of(port)}. Choose another one with --port."
                    raise StartError(taken) from error
            else:
                return
        time.sleep(0.1)


def secret(run: Path) -> str:
    """The key that signs form tokens; made once, kept in the data folder."""
    place = run / "secret"
    if not place.exists():
        place.write_text(secrets.token_urlsafe(32))
        place.chmod(0o600)
    return place.read_text().strip()


def hook_key(run: Path) -> str:
    """The key that messages to other programs are signed with: never the one of the form tokens."""
    return sha256(f"hook {secret(run)}".encode()).hexdigest()


def asked(question: str) -> bool:
    """A yes from the person at the keyboard; anything else, or nobody there, is a no."""
    try:
        return input(question).strip().lower() in ("y", "yes")
    except EOFError:
        return False


def start_stand_in(module: str, mode: str, key: str = "") -> subprocess.Popen[bytes] | None:
    """Start a service that stands in for a real one; nothing where it is off."""
    if mode == "off":
        return None
    return subprocess.Popen(
        [sys.executable, "-m", f"pulltide.ops.{module}", "--mode", mode],
        env=os.environ | {"PULLTIDE_HOOK_KEY": key},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
        preexec_fn=end_with_parent,
    )


def address_of(service: subprocess.Popen[bytes] | None) -> str:
    """Host and port that a service says it listens at, waited for; empty where it is off or did not start."""
    if service is None or service.stdout is None:
        return ""
    port = service.stdout.readline().strip().decode()
    return f"{LOOPBACK}:{port}" if port else ""


def start_server(
    cluster: Cluster, options: argparse.Namespace, stand_ins: tuple[str, str, str], share: Shared | None = None
) -> subprocess.Popen[bytes]:
    """Start the web server as a child; a shared one listens everywhere, and speaks over TLS alone."""
    prices, instruments, hook = stand_ins
    environment = os.environ | {
        "PULLTIDE_HOOK": f"http://{hook}/" if hook else "",
        "PULLTIDE_HOOK_KEY": hook_key(options.data),
        "PULLTIDE_SHARE_NAMES": " ".join(share.names) if share is not None else "",
        "PULLTIDE_SHARE_ADDRESS": share.address if share is not None else "",
        "PULLTIDE_SHARE_PRINT": share.fingerprint if share is not None else "",
        "PULLTIDE_PRICES": f"http://{prices}" if prices else "",
        "PULLTIDE_INSTRUMENTS": instruments,
        "PULLTIDE_DATABASE_URL": cluster.shop_url(),
        "PULLTIDE_SECRET": secret(options.data),
        "PULLTIDE_DEMO": "1",
        "PULLTIDE_WORKERS": str(options.workers),
        "PULLTIDE_BACKUPS": str(folder_of(options.data)),
        "PULLTIDE_DATABASE_PROGRAMS": str(cluster.programs),
    }
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "--factory",
        "pulltide.web.entry:app_from_environment",
        "--host",
        LOOPBACK if share is None else EVERYWHERE,
        "--port",
        str(options.port),
        "--workers",
        str(options.workers),
        "--http",
        "pulltide.web.patience:PatientProtocol",
        "--limit-concurrency",
        MAX_CONNECTIONS,
        "--no-access-log",
        "--timeout-graceful-shutdown",
        GRACE_SECONDS,
        "--log-level",
        "warning",
    ]
    if share is not None:
        command += ["--ssl-certfile", str(share.certificate), "--ssl-keyfile", str(share.key)]
    with open_log(options.data / "server.log") as log:
        return subprocess.Popen(
            command,
            env=environment,
            stdin=subprocess.DEVNULL,
            stdout=log,
            stderr=log,
            start_new_session=True,
            preexec_fn=end_with_parent,
        )


def wait_until_ready(options: argparse.Namespace, server: subprocess.Popen[bytes]) -> None:
    """Wait for the health page; of our own server on this machine no certificate is asked for."""
    scheme, unchecked = ("https", ssl._create_unverified_context()) if options.share else ("http", None)
    deadline = time.monotonic() + READY_SECONDS
    while time.monotonic() < deadline:
        if server.poll() is not None:
            raise StartError(f"The web server stopped at once. Its last words: {_tail(options.data / 'server.log')}")
        try:
            with urlopen(f"{scheme}://{LOOPBACK}:{options.port}/healthz", timeout=2, context=unchecked) as answer:
                if answer.status == 200:
                    return
        except (URLError, OSError, HTTPException):  # a port above 32767 may even answer itself before it is taken
            time.sleep(0.05)
    raise StartError(f"The web server did not answer within {READY_SECONDS:g} seconds.")


def to_migrate(url: str) -> bool:
    """Whether a shop that holds something is older than this program. Raises StartError where it is newer."""
    engine = connect(url)
    try:
        revision = current_revision(engine)
    finally:
        engine.dispose()
    if revision is not None and revision not in revisions():
        raise StartError(
            "The shop's data is of a newer version of this program. Use that version, or put an older backup in its "
            "place with script/restore. Nothing was changed."
        )
    return revision not in (None, newest_revision())


def check_owner(url: str) -> None:
    """Refuse to share a shop that nobody could sign in to. The tables are brought up to date for that."""
    engine = connect(url)
    try:
        migrate(engine)
        if not PostgresAccounts(engine).has_owner():
            raise StartError(
                "A shared shop is for people who sign in. Make its first owner on this machine with "
                "./script/people add NAME --role owner, then start again."
            )
    finally:
        engine.dispose()


def watch(cluster: Cluster, server: subprocess.Popen[bytes], log: Path, say: Callable[[str], None]) -> None:
    """Until the web server ends: a database server that was killed is started again, and no log grows for ever.

    A server that does not come back at once is tried again, and said once: pages say that the database is away and
    keep what was typed, which is better than no pages.
    """
    last_said = ""
    while server.poll() is None:
        try:
            server.wait(WATCH_SECONDS)
        except subprocess.TimeoutExpired:
            put_aside_when_large(log)
            try:
                news = "The database server had ended and was started again." if cluster.revive() else ""
            except ClusterError as error:
                news = f"{error} It is tried again."
            if news and news != last_said:
                say(news)
            last_said = news


def _tail(log: Path) -> str:
    lines = [line for line in log.read_text(errors="replace").splitlines() if line.strip()]
    return lines[-1] if lines else "none"


def _interrupt(number: int, frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _end(server: subprocess.Popen[bytes] | None) -> None:
    if server is None or server.poll() is not None:
        return
    server.terminate()
    try:
        server.wait(END_SECONDS)
    except subprocess.TimeoutExpired:
        server.kill()
        server.wait(10)


def run(options: argparse.Namespace, say: Callable[[str], None]) -> None:
    """Start everything, wait for Ctrl-C, stop everything."""
    check_port(options.port, EVERYWHERE if options.share else LOOPBACK)
    cluster = Cluster(home_for(options.data, "pg"))
    server: subprocess.Popen[bytes] | None = None
    services: list[subprocess.Popen[bytes] | None] = []
    try:
        # they get ready while the database does
        for module, mode in (
            ("price_stand_in", options.prices),
            ("instrument_stand_in", options.instruments),
            ("hook_stand_in", options.hook),
        ):
            services.append(start_stand_in(module, mode, hook_key(options.data)))
        cluster.start()
        if options.fresh and cluster.has_database():
            say(f"What was there is backed up in {dump(cluster, options.data, 'before-fresh')}")
            cluster.drop_database()
        cluster.create_database()
        cluster.hand_over()
        if to_migrate(cluster.shop_url()):
            say(f"The data is brought up to this version; backed up in {dump(cluster, options.data, 'before-upgrade')}")
        share = None
        if options.share:
            check_owner(cluster.shop_url())
            own = (options.certificate, options.key) if options.certificate else None
            share = shared(options.data, options.port, tuple(options.name), own)
        prices, instruments, hook = map(address_of, services)
        server = start_server(cluster, options, (prices, instruments, hook), share)
        wait_until_ready(options, server)
        address = f"http://{LOOPBACK}:{options.port}/" if share is None else share.address
        (options.data / "address").write_text(address)
        if share is not None:
            say(announcement(share))
        say(f"Pulltide Gear runs at {address}  (Ctrl-C stops it)")
        watch(cluster, server, options.data / "server.log", say)
        raise StartError(f"The web server stopped by itself. Its last words: {_tail(options.data / 'server.log')}")
    finally:
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, signal.SIG_IGN)
        for one in filter(None, services):
            one.kill()
        _end(server)
        cluster.stop()
        (options.data / "address").unlink(missing_ok=True)


def settled(say: Callable[[str], None]) -> Path:
    """The data folder where none is named; a shop inside the program's own folder is moved there first."""
    folder = data_folder()
    if not holds_a_shop(FORMER) or holds_a_shop(folder):
        return folder
    with only_one(FORMER):
        return moved(FORMER, folder, say)


def main() -> int:
    """Entry of ``./script/start``."""
    parser = argparse.ArgumentParser(prog="script/start", description="Start Pulltide Gear on this machine.")
    parser.add_argument("--port", type=int, default=PORT, help=f"port on 127.0.0.1 ({PORT})")
    parser.add_argument("--workers", type=int, default=1, choices=range(1, 9), help="web server processes (1)")
    parser.add_argument("--fresh", action="store_true", help="delete all machines and make the demo shop anew")
    parser.add_argument("--yes", action="store_true", help="with --fresh: do not ask")
    parser.add_argument(
        "--prices",
        choices=("off", *MODES),
        default="fine",
        help="made-up price service: well, slow, answering nonsense, dead, or none (fine)",
    )
    parser.add_argument(
        "--instruments",
        choices=("off", *INSTRUMENT_MODES),
        default="fine",
        help="made-up instruments: well, dropping out, in other units, showing nonsense, dead, or none (fine)",
    )
    parser.add_argument(
        "--hook",
        choices=("off", *HOOK_MODES),
        default="fine",
        help="made-up program that is told of changes: well, slow, with faults, dead, or none (fine)",
    )
    parser.add_argument("--data", type=Path, help=f"folder that holds the data ({data_folder()})")
    parser.add_argument("--share", action="store_true", help="let other machines in, over TLS, with signing in")
    parser.add_argument("--name", action="append", default=[], help="with --share: a further name it is reached by")
    parser.add_argument("--certificate", type=Path, help="with --share: a certificate of your own (PEM)")
    parser.add_argument("--key", type=Path, help="with --certificate: its key (PEM)")
    options = parser.parse_args()
    say = partial(print, flush=True)
    if (options.certificate is None) != (options.key is None):
        parser.error("--certificate and --key go together")
    if not options.share and (options.name or options.certificate):
        parser.error("--name and --certificate go with --share")
    if not 1 <= options.port <= 65535:
        parser.error(f"--port: {options.port} is out of range; accepted: 1 to 65535")
    question = "Delete every machine in this shop and make the demo anew? [y/N] "
    for number in (signal.SIGTERM, signal.SIGINT):  # a shell may have told background jobs to ignore Ctrl-C
        signal.signal(number, _interrupt)
    try:
        options.data = options.data.resolve() if options.data else settled(say)
        with only_one(options.data):
            if options.fresh and not options.yes and not asked(question):
                print("Nothing was deleted.")
                return 1
            run(options, say)
    except KeyboardInterrupt:
        print("\nStopped.")
        return 0
    except (StartError, ClusterError, CertificateError) as error:
        print(error, file=sys.stderr)
        return 1
    except OSError as error:
        print(f"Could not start: {error.strerror or error}.", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
