"""Walks the window as a screen reader does, over an accessibility bus of its own, and reads aloud.

    .venv/bin/python -m fuzz.aloud

Needs Xvfb and Debian's at-spi2-core (apt-get install xvfb at-spi2-core dbus). It starts a screen, a
bus and the demo, finds what takes keys and has no name, opens the tables by their menu entry, reads
the pins of a lane as text, and hears what the line at the foot says.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from jeepney import DBusAddress, MatchRule, Properties, message_bus, new_method_call
from jeepney.io.blocking import DBusConnection, Proxy, open_dbus_connection
from jeepney.wrappers import unwrap_msg

_LAUNCHER = Path("/usr/libexec/at-spi-bus-launcher")
_ROOT = "/org/a11y/atspi/accessible/root"
_SPI = "org.a11y.atspi"
_FOCUSABLE, _SHOWING, _VISIBLE = 11, 25, 30
"""Bits of the set of states, as AT-SPI 2 numbers them."""
_NAMELESS = ("filler", "panel", "scroll pane", "viewport", "layered pane", "table cell", "page tab")
"""Roles that only hold others, or are read by what is in them."""
_LONGEST, _SETTLES = 120.0, 2.0
_PLACES = ("Cut list", "Collection", "Checks", "Export", "Bench")


@dataclass(frozen=True)
class Node:
    """Something on the bus: who owns it, and where."""

    owner: str
    path: str


class Bus:
    """Asks what is on an accessibility bus.

    Args:
        address: of the bus.
    """

    def __init__(self, address: str) -> None:
        self.connection: DBusConnection = open_dbus_connection(address)
        self.heard: list[str] = []

    def call(
        self, node: Node, interface: str, method: str, signature: str = "", *values: Any
    ) -> Any:
        """What a method gives."""
        address = DBusAddress(node.path, node.owner, f"{_SPI}.{interface}")
        message = new_method_call(address, method, signature or None, values)
        reply = self.connection.send_and_get_reply(message, timeout=20)
        return unwrap_msg(reply)

    def property(self, node: Node, interface: str, name: str) -> Any:
        """The value of a property."""
        address = DBusAddress(node.path, node.owner, f"{_SPI}.{interface}")
        reply = self.connection.send_and_get_reply(Properties(address).get(name), timeout=20)
        return unwrap_msg(reply)[0][1]

    def name(self, node: Node) -> str:
        """What it is called."""
        return str(self.property(node, "Accessible", "Name"))

    def role(self, node: Node) -> str:
        """What it is."""
        return str(self.call(node, "Accessible", "GetRoleName")[0])

    def states(self, node: Node) -> int:
        """Its states, a bit for each."""
        low, high = self.call(node, "Accessible", "GetState")[0]
        return int(low) | int(high) << 32

    def children(self, node: Node) -> list[Node]:
        """What is in it."""
        return [Node(*one) for one in self.call(node, "Accessible", "GetChildren")[0]]

    def all_in(self, node: Node) -> Iterator[Node]:
        """All that is in it, the nearest first."""
        waiting = deque([node])
        while waiting:
            here = waiting.popleft()
            yield here
            # The cells of a table are asked for one by one, where they are wanted.
            if self.role(here) not in ("table", "tree table", "list", "tree"):
                waiting.extend(self.children(here))


def main() -> int:
    """Walks, reads, and says what is wrong; gives the exit status."""
    with ExitStack() as stack:
        folder = Path(stack.enter_context(tempfile.TemporaryDirectory()))
        environment = stack.enter_context(_screen_and_bus(folder))
        address = _bus_address(environment["DBUS_SESSION_BUS_ADDRESS"])
        bus = Bus(address)
        stack.enter_context(_program(environment, folder))
        window = _wait(lambda: _application(bus), "the program on the bus")
        _wait(lambda: sum(1 for _ in bus.all_in(window)) > 200, "its window")
        nameless = []
        for place in _PLACES:
            _do(bus, window, place)
            time.sleep(_SETTLES)
            nameless += [f"{place}: {one}" for one in _nameless(bus, window)]
        print(f"{len(nameless)} without a name", *nameless, sep="\n  ")
        read = _read_pins(bus, window)
        print("pins of a lane, as they are read:", *read, sep="\n  ")
        said = _heard(bus, window)
        print(f"the line at the foot said: {said}")
    return 1 if nameless or not read or not said else 0


@contextmanager
def _screen_and_bus(folder: Path) -> Iterator[dict[str, str]]:
    """A screen and a session bus that nobody else has; gives the environment that leads there."""
    if not _LAUNCHER.exists():
        raise SystemExit("at-spi2-core is missing. Type: apt-get install at-spi2-core dbus xvfb")
    screen_end, told = os.pipe()
    environment = {
        **os.environ, "HOME": str(folder), "XDG_RUNTIME_DIR": str(folder),
        "XDG_CONFIG_HOME": str(folder / "config"), "XDG_DATA_HOME": str(folder / "data"),
        "XDG_STATE_HOME": str(folder / "state"),
    }  # fmt: skip
    with ExitStack() as stack:
        screen = subprocess.Popen(
            ["Xvfb", "-displayfd", str(told), "-screen", "0", "1280x800x24"],
            pass_fds=[told], stderr=subprocess.DEVNULL,
        )  # fmt: skip
        stack.callback(_end, screen)
        os.close(told)
        environment["DISPLAY"] = ":" + os.read(screen_end, 16).decode().strip()
        daemon = subprocess.Popen(
            ["dbus-daemon", "--session", "--nofork", "--print-address"],
            stdout=subprocess.PIPE, text=True, env=environment,
        )  # fmt: skip
        stack.callback(_end, daemon)
        assert daemon.stdout is not None
        environment["DBUS_SESSION_BUS_ADDRESS"] = daemon.stdout.readline().strip()
        launcher = subprocess.Popen([_LAUNCHER, "--launch-immediately"], env=environment)
        stack.callback(_end, launcher)
        yield environment


@contextmanager
def _program(environment: dict[str, str], folder: Path) -> Iterator[None]:
    program = subprocess.Popen(
        [sys.executable, "-m", "wrinkle", "demo"],
        env={**environment, "QT_QPA_PLATFORM": "xcb", "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1"},
        stderr=subprocess.DEVNULL,
    )
    try:
        yield
    finally:
        _end(program)


def _end(process: subprocess.Popen[Any]) -> None:
    process.terminate()
    try:
        process.wait(20)
    except subprocess.TimeoutExpired:
        process.kill()


def _bus_address(session: str) -> str:
    """Where the accessibility bus is; it is switched on."""
    connection = open_dbus_connection(session)
    status = DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Status")

    def asked() -> str:
        connection.send_and_get_reply(Properties(status).set("IsEnabled", "b", True), timeout=20)
        where = DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Bus")
        reply = connection.send_and_get_reply(new_method_call(where, "GetAddress"), timeout=20)
        return str(unwrap_msg(reply)[0])

    return _wait(asked, "the accessibility bus")


def _wait(ask: Callable[[], Any], what: str) -> Any:
    """What is asked for, once it is there.

    Raises:
        SystemExit: it does not come.
    """
    end = time.monotonic() + _LONGEST
    while time.monotonic() < end:
        try:
            found = ask()
        except Exception:  # noqa: BLE001 - whoever is asked is not there yet
            found = None
        if found:
            return found
        time.sleep(0.2)
    raise SystemExit(f"did not come: {what}")


def _application(bus: Bus) -> Node | None:
    root = Node("org.a11y.atspi.Registry", _ROOT)
    for one in bus.children(root):
        if "wrinkle" in bus.name(one).lower():
            return one
    return None


def _nameless(bus: Bus, window: Node) -> list[str]:
    """What can have the focus, is to be seen, and is called nothing."""
    found = []
    for node in bus.all_in(window):
        states = bus.states(node)
        shown = states >> _SHOWING & 1 and states >> _VISIBLE & 1
        if states >> _FOCUSABLE & 1 and shown and not bus.name(node):
            role = bus.role(node)
            if role not in _NAMELESS:
                found.append(f"{role} {bus.property(node, 'Accessible', 'Description')}")
    return found


def _do(bus: Bus, window: Node, words: str) -> None:
    """Does an entry of a menu."""
    for node in bus.all_in(window):
        if bus.role(node) in ("menu item", "check menu item") and bus.name(node).startswith(words):
            bus.call(node, "Action", "DoAction", "i", 0)
            return
    raise SystemExit(f"no menu has {words}")


def _read_pins(bus: Bus, window: Node) -> list[str]:
    """The rows of the first table that the program shows, each as a sentence."""
    _do(bus, window, "Numbers as a table")

    def table() -> Node | None:
        tables = (x for x in bus.all_in(window) if bus.role(x) == "table")
        return next((x for x in tables if bus.property(x, "Table", "NRows")), None)

    found = _wait(table, "the table of a lane")
    rows, columns = (int(bus.property(found, "Table", x)) for x in ("NRows", "NColumns"))
    heads = [
        str(bus.call(found, "Table", "GetColumnDescription", "i", column)[0])
        for column in range(columns)
    ]
    read = []
    for row in range(rows):
        cells = [
            Node(*bus.call(found, "Table", "GetAccessibleAt", "ii", row, column)[0])
            for column in range(columns)
        ]
        words = (f"{head} {bus.name(cell)}" for head, cell in zip(heads, cells, strict=True))
        read.append(f"{bus.name(found)}: {', '.join(words)}")
    return read


def _heard(bus: Bus, window: Node) -> str:
    """What is told on the bus when the line at the foot says something else."""
    rule = MatchRule(type="signal", interface=f"{_SPI}.Event.Object", member="PropertyChange")
    Proxy(message_bus, bus.connection).AddMatch(rule)
    registry = DBusAddress(
        "/org/a11y/atspi/registry", "org.a11y.atspi.Registry", f"{_SPI}.Registry"
    )
    # Programs tell only what somebody listens to.
    wanted = ("object:property-change:accessible-name", [], "")
    message = new_method_call(registry, "RegisterEvent", "sass", wanted)
    unwrap_msg(bus.connection.send_and_get_reply(message, timeout=20))
    time.sleep(2)
    with bus.connection.filter(rule) as told:
        _do(bus, window, "Empty the caches")
        end = time.monotonic() + 20
        while time.monotonic() < end:
            try:
                message = bus.connection.recv_until_filtered(told, timeout=1)
            except TimeoutError:
                continue
            kind, *_, value = message.body[:4]
            if kind == "accessible-name" and "caches" in str(value[1]):
                return str(value[1])
    return ""


if __name__ == "__main__":
    sys.exit(main())
