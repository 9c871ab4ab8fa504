"""A cheap feed server for measurements of polling: TLS, many hosts of loopback, mostly 304."""

import contextlib
import multiprocessing
import socket
import ssl
import tempfile
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

__all__ = ["ALLOWED", "ITEMS", "SOURCES", "TURNS", "address", "serving"]

SOURCES = 4000
ITEMS = 20
TURNS = 6
"""How often each feed can be asked for anew: ``If-None-Match: "1"`` gives it as it was first, ``"2"`` with a new story."""

_HOSTS = 200
_PORT = 18443
_SERVING = 12
ALLOWED = frozenset(f"127.0.1.{host + 1}:{_PORT}" for host in range(_HOSTS))


def _certificate(folder: Path) -> Path:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "localhost")])
    made = x509.CertificateBuilder().subject_name(name).issuer_name(name).public_key(key.public_key())
    made = made.serial_number(1).not_valid_before(datetime(2020, 1, 1, tzinfo=UTC))
    signed = made.not_valid_after(datetime(2120, 1, 1, tzinfo=UTC)).sign(key, hashes.SHA256())
    path = folder / "pem"
    path.write_bytes(
        signed.public_bytes(serialization.Encoding.PEM)
        + key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    )
    return path


def _feed(number: int, turn: int) -> bytes:
    """Return a feed of twenty stories, of which each request gets a new one."""
    items = "".join(
        f"<item><title>Story {number}-{one} of the night</title><guid>{number}-{one}</guid>"
        f"<link>https://club.example/{number}/{one}</link><pubDate>Tue, 24 Nov 2026 10:00:00 GMT</pubDate>"
        f"<description>{'Seen above the reservoir wall, faint and low. ' * 12}</description></item>"
        for one in range(turn, ITEMS + turn)
    )
    return f"<rss version='2.0'><channel><title>Club {number}</title>{items}</channel></rss>".encode()


def _serve(pem: str, ready: Any) -> None:  # noqa: ANN401 - an event of multiprocessing
    """Answer requests cheaply, because a real server would not share our processors."""
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(pem)
    # No session resumption, so each poll is a full handshake.
    context.num_tickets = 0
    context.options |= ssl.OP_NO_TICKET
    feeds = {(number, turn): _feed(number, turn) for number in range(0, SOURCES, 10) for turn in range(TURNS)}
    listener = socket.create_server(("0.0.0.0", _PORT), backlog=512)  # noqa: S104

    def answer(asked: bytes) -> bytes:
        number = int(asked.split(b" ", 2)[1][1:])
        if number % 10:
            return b"HTTP/1.1 304 Not Modified\r\nConnection: close\r\n\r\n"
        body = feeds[number, int(asked.split(b'If-None-Match: "', 1)[1].split(b'"', 1)[0]) - 1]
        head = (
            f"HTTP/1.1 200 OK\r\nConnection: close\r\nContent-Type: application/rss+xml\r\nContent-Length: {len(body)}"
        )
        return head.encode() + b"\r\n\r\n" + body

    def serve() -> None:
        while True:
            connection, _ = listener.accept()
            # A client that disconnects is no fault of the measurement.
            with contextlib.suppress(OSError), context.wrap_socket(connection, server_side=True) as secured:
                asked = b""
                while b"\r\n\r\n" not in asked and (more := secured.recv(16_384)):
                    asked += more
                secured.sendall(answer(asked))

    for _ in range(_SERVING):
        threading.Thread(target=serve).start()
    ready.set()


def address(number: int) -> str:
    return f"https://127.0.1.{number % _HOSTS + 1}:{_PORT}/{number}"


@contextmanager
def serving() -> Iterator[int]:
    """Run the server in a process of its own.

    Yield its port.
    """
    with tempfile.TemporaryDirectory() as folder:
        ready = multiprocessing.Event()
        server = multiprocessing.Process(target=_serve, args=(str(_certificate(Path(folder))), ready), daemon=True)
        server.start()
        ready.wait(30)
        try:
            yield server.pid or 0
        finally:
            server.terminate()
            server.join()
