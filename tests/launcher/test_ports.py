"""All taken ports are named together, with their processes and the option to use."""

import os
import socket
from contextlib import ExitStack

from django.test import SimpleTestCase
from glyptarch_launcher.ports import check_ports, free_port
from glyptarch_launcher.say import GiveUpError


class Ports(SimpleTestCase):
    def taken(self) -> int:
        stack = ExitStack()
        self.addCleanup(stack.close)
        listener = stack.enter_context(socket.socket())
        listener.bind(("127.0.0.1", 0))
        listener.listen()
        return int(listener.getsockname()[1])

    def test_every_taken_port_is_named_with_its_process_and_a_free_one(self) -> None:
        first, second = self.taken(), self.taken()
        wanted = {"--port": ("the web server", first), "--mail-port": ("mail", second), "--other": ("x", free_port())}
        with self.assertRaises(GiveUpError) as raised:
            check_ports(wanted)
        text = str(raised.exception)
        for port, what, option in ((first, "the web server", "--port"), (second, "mail", "--mail-port")):
            self.assertRegex(
                text, rf"Port {port}, wanted for {what}, is taken by process {os.getpid()} .*: {option} \d+"
            )
        self.assertNotIn("--other", text)

    def test_the_port_that_is_offered_is_free_and_nobody_else_wants_it(self) -> None:
        port = self.taken()
        with self.assertRaises(GiveUpError) as raised:
            check_ports({"--port": ("the web server", port), "--next": ("the one beside it", port + 1)})
        offered = int(str(raised.exception).partition("--port ")[2].split()[0])
        self.assertNotIn(offered, (port, port + 1))
        check_ports({"--port": ("the web server", offered)})
