"""What the desktop is told and asked over D-Bus: that work has ended, that the machine should stay awake, whether there
are portals. Where nobody listens nothing happens."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from typing import Any

from jeepney import DBusAddress, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection
from jeepney.wrappers import DBusErrorResponse, unwrap_msg

from young_tremor.engine.system.menu_entry import APP

PATIENCE = 2.0  # seconds for an answer
NAME = "Young Tremor"
_NOTES = DBusAddress(
    "/org/freedesktop/Notifications",
    bus_name="org.freedesktop.Notifications",
    interface="org.freedesktop.Notifications",
)
_LOGIN = DBusAddress(
    "/org/freedesktop/login1", bus_name="org.freedesktop.login1", interface="org.freedesktop.login1.Manager"
)
_BUS = DBusAddress("/org/freedesktop/DBus", bus_name="org.freedesktop.DBus", interface="org.freedesktop.DBus")
PORTAL = "org.freedesktop.portal.Desktop"
_WRONG = (OSError, KeyError, ValueError, IndexError, DBusErrorResponse)  # no bus, none that answers, none that we know


def _call(line: DBusConnection, address: DBusAddress, method: str, signature: str, body: tuple[Any, ...]) -> Any:
    message = new_method_call(address, method, signature, body) if signature else new_method_call(address, method)
    return unwrap_msg(line.send_and_get_reply(message, timeout=PATIENCE))


def notify(title: str, words: str) -> bool:
    """Show a notification; whether somebody took it. Waits up to two seconds: not for the thread of the window."""
    hints = {"desktop-entry": ("s", APP), "category": ("s", "transfer.complete")}
    body: tuple[Any, ...] = (NAME, 0, "young-tremor", title, words, [], hints, -1)
    with suppress(*_WRONG), open_dbus_connection("SESSION") as line:
        _call(line, _NOTES, "Notify", "susssasa{sv}i", body)
        return True
    return False


@contextmanager
def awake(why: str) -> Iterator[bool]:
    """Keep the machine from going to sleep meanwhile; whether that was granted."""
    held = None
    with suppress(*_WRONG), open_dbus_connection("SYSTEM", enable_fds=True) as line:
        (found,) = _call(line, _LOGIN, "Inhibit", "ssss", ("sleep", NAME, why, "block"))
        held = found.to_raw_fd()
    try:
        yield held is not None
    finally:
        if held is not None:
            os.close(held)


def has_portals() -> bool:
    """Whether the desktop offers portals, so that its own file dialogs can be used."""
    with suppress(*_WRONG), open_dbus_connection("SESSION") as line:
        (running,) = _call(line, _BUS, "NameHasOwner", "s", (PORTAL,))
        return bool(running) or PORTAL in _call(line, _BUS, "ListActivatableNames", "", ())[0]
    return False
