"""What the desktop is asked for while one works elsewhere: to stay awake, and to tell of an end.

The interfaces are those of xdg-desktop-portal (org.freedesktop.portal.Inhibit, version 3, and
org.freedesktop.portal.Notification, version 1). Where there is no such desktop, nothing happens.
"""

from __future__ import annotations

import secrets
from collections.abc import Callable
from typing import Any, cast

from PyQt6.QtCore import QMetaType
from PyQt6.QtDBus import QDBusArgument, QDBusConnection, QDBusMessage

_SERVICE, _PLACE = "org.freedesktop.portal.Desktop", "/org/freedesktop/portal/desktop"
_SUSPEND, _IDLE = 4, 8
_UINT = cast(int, QMetaType.Type.UInt.value)
Send = Callable[[str, str, str, list[Any]], None]
"""Sends a message: to which object, which interface, which member, and with what."""


def _sent(place: str, interface: str, member: str, content: list[Any]) -> None:
    bus = QDBusConnection.sessionBus()
    if bus.isConnected():
        message = QDBusMessage.createMethodCall(_SERVICE, place, interface, member)
        message.setArguments(content)
        # The answer is not waited for: the window has other things to do.
        bus.asyncCall(message)


def _own_name() -> str:
    return QDBusConnection.sessionBus().baseService()


class DesktopPortal:
    """The portal of the desktop.

    Args:
        send: how a message is sent.
        own_name: gives the name that the bus knows this program by.
    """

    def __init__(self, send: Send = _sent, own_name: Callable[[], str] = _own_name) -> None:
        self._send, self._own_name = send, own_name
        self._awake = ""

    def keep_awake(self, reason: str) -> None:
        """Asks the desktop not to sleep, until ``let_sleep``."""
        if self._awake:
            return
        token = f"wrinkle{secrets.token_hex(4)}"
        sender = self._own_name().removeprefix(":").replace(".", "_")
        # Where the request lies is said by its token and by who asks.
        self._awake = f"{_PLACE}/request/{sender}/{token}"
        flags = QDBusArgument()
        flags.add(_SUSPEND | _IDLE, _UINT)
        content = ["", flags, {"handle_token": token, "reason": reason}]
        self._send(_PLACE, "org.freedesktop.portal.Inhibit", "Inhibit", content)

    def let_sleep(self) -> None:
        """The desktop may sleep again."""
        place, self._awake = self._awake, ""
        if place:
            self._send(place, "org.freedesktop.portal.Request", "Close", [])

    def tell(self, key: str, title: str, text: str) -> None:
        """Shows a notification; a later one with the same key takes its place."""
        content = [key, {"title": title, "body": text}]
        self._send(_PLACE, "org.freedesktop.portal.Notification", "AddNotification", content)
