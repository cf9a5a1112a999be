"""A desktop of the tests' own: a message bus with a portal on it that gives what it is told.

Source: D-Bus specification; XDG Desktop Portal, org.freedesktop.portal.Screenshot.
"""

from __future__ import annotations

import contextlib
import subprocess
import threading

from jeepney import DBusAddress, HeaderFields, message_bus, new_method_return, new_signal
from jeepney.io.blocking import Proxy, open_dbus_connection


@contextlib.contextmanager
def message_bus_of_its_own():
    """A message bus; gives its address."""
    command = ["dbus-daemon", "--session", "--nofork", "--print-address"]
    bus = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
    try:
        yield bus.stdout.readline().strip()
    finally:
        bus.kill()
        bus.communicate()


class Portal:
    """Answers each request for a colour with the next of `answers`: (code, results)."""

    def __init__(self, address, answers):
        self.connection = open_dbus_connection(address)
        self.answers = list(answers)
        Proxy(message_bus, self.connection).RequestName("org.freedesktop.portal.Desktop")
        self.thread = threading.Thread(target=self.serve, daemon=True)
        self.thread.start()

    def serve(self):
        while self.answers:
            try:
                call = self.connection.receive(timeout=10)
            except (OSError, TimeoutError):
                return
            if call.header.fields.get(HeaderFields.member) != "PickColor":
                continue
            sender = call.header.fields[HeaderFields.sender].lstrip(":").replace(".", "_")
            token = call.body[1]["handle_token"][1]
            path = f"/org/freedesktop/portal/desktop/request/{sender}/{token}"
            self.connection.send(new_method_return(call, "o", (path,)))
            request = DBusAddress(path, interface="org.freedesktop.portal.Request")
            self.connection.send(new_signal(request, "Response", "ua{sv}", self.answers.pop(0)))

    def close(self):
        self.thread.join(10)
        self.connection.close()
