"""A colour from anywhere on the desktop, by the desktop's own means, where it has them.

Source: XDG Desktop Portal, interfaces org.freedesktop.portal.Screenshot (PickColor, version 2)
and org.freedesktop.portal.Request (Response).
"""

from __future__ import annotations

import secrets
import time
from collections.abc import Callable
from typing import Any

from jeepney import DBusAddress, MatchRule, MessageType, message_bus, new_method_call
from jeepney.io.blocking import DBusConnection, Proxy, open_dbus_connection

from outgrowth.core.color import Color
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.store import Cancelled

_PORTAL = DBusAddress(
    "/org/freedesktop/portal/desktop",
    "org.freedesktop.portal.Desktop",
    "org.freedesktop.portal.Screenshot",
)
_REQUEST = "org.freedesktop.portal.Request"
_ANSWER_S = 3.0
"""How long the desktop may take to say that it will ask."""
_LOOK_S = 0.2
"""How often somebody who stopped waiting is noticed."""
_TAKEN, _LEFT = 0, 1


class NoDesktopColor(Refusal):
    """This desktop gives no colours; the message is a sentence."""


def desktop_color(report: Callable[[str], object]) -> Color:
    """The colour of a place that the user presses. To be called beside the window: it waits for
    the user, and calls `report` meanwhile, which may end it. Raises NoDesktopColor where the
    desktop has no such thing, Cancelled where the user left it."""
    try:
        connection = open_dbus_connection("SESSION")
    except (OSError, KeyError, ValueError, RuntimeError) as problem:
        raise NoDesktopColor("This desktop gives no colours.") from problem
    try:
        return _picked(connection, report)
    except (OSError, TimeoutError) as problem:
        raise NoDesktopColor("This desktop gives no colours.") from problem
    finally:
        connection.close()


def _picked(connection: DBusConnection, report: Callable[[str], object]) -> Color:
    token = f"outgrowth{secrets.token_hex(8)}"
    sender = connection.unique_name.lstrip(":").replace(".", "_")
    path = f"/org/freedesktop/portal/desktop/request/{sender}/{token}"
    rule = MatchRule(type="signal", interface=_REQUEST, member="Response", path=path)
    Proxy(message_bus, connection, timeout=_ANSWER_S).AddMatch(rule)
    with connection.filter(rule) as responses:
        options = {"handle_token": ("s", token)}
        asked = new_method_call(_PORTAL, "PickColor", "sa{sv}", ("", options))
        reply = connection.send_and_get_reply(asked, timeout=_ANSWER_S)
        if reply.header.message_type is MessageType.error:
            raise NoDesktopColor("This desktop gives no colours.")
        while not responses:
            report("Press anywhere to take the colour there …")
            _listen(connection)
        return _color_of(responses.popleft().body)


def _listen(connection: DBusConnection) -> None:
    try:
        connection.recv_messages(timeout=_LOOK_S)
    except TimeoutError:
        time.sleep(0)  # nobody pressed yet


def _color_of(body: tuple[int, dict[str, Any]]) -> Color:
    """The colour in a response: three numbers from 0 to 1, in sRGB."""
    code, results = body
    if code == _LEFT:
        raise Cancelled("Stopped; nothing was changed.")
    kind, parts = results.get("color", ("", ()))
    if code != _TAKEN or kind != "(ddd)":
        raise NoDesktopColor("The desktop gave no colour.")
    return Color(*(min(max(float(part), 0.0), 1.0) for part in parts))
