"""The application among others on a desktop: entries, second starts, notifications, packages."""

from __future__ import annotations

import json
import os
import platform
import runpy
import shutil
import socket
import struct
import subprocess
import sys
import threading
import time
import zipfile
from collections.abc import Iterator
from contextlib import ExitStack, suppress
from pathlib import Path

import cv2
import numpy as np
import pytest
from jeepney import HeaderFields, MessageType, new_error, new_method_return
from jeepney.bus_messages import message_bus
from jeepney.io.blocking import open_dbus_connection
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from clips import clip
from driver import Desk
from young_tremor import __version__
from young_tremor.__main__ import main
from young_tremor.base import single_instance
from young_tremor.desk.window.notifications import LONG, DeliveryNotifier
from young_tremor.desk.window.second_start import SecondStartListener
from young_tremor.engine.delivery import actions
from young_tremor.engine.delivery.delivery_queue import DeliveryRequest, QueuedDelivery
from young_tremor.engine.library import preset_library
from young_tremor.engine.system import desktop_bus, menu_entry

ROOT = Path(__file__).parents[1]


def ran(*words: str | Path, **more) -> subprocess.CompletedProcess[str]:  # type: ignore[no-untyped-def]
    done = subprocess.run([str(w) for w in words], capture_output=True, text=True, check=False, timeout=600, **more)
    assert done.returncode == 0, (words, done.stdout[-800:], done.stderr[-800:])
    return done


# the menu


def test_the_entry_goes_into_the_menu_is_valid_and_comes_out_again(own_data: Path, tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    share = tmp_path / "a folder"
    assert main(["desktop", "--to", str(share), "--command", menu_entry._quote("/opt/My $tools/young-tremor")]) == 0
    entry = share / f"applications/{menu_entry.APP}.desktop"
    assert 'Exec="/opt/My \\\\$tools/young-tremor" %F\n' in entry.read_text()
    meta = share / f"metainfo/{menu_entry.APP}.metainfo.xml"
    assert f'<release version="{__version__}"' in meta.read_text()
    for tool, path in (("desktop-file-validate", entry), ("appstreamcli validate --no-net", meta)):
        if shutil.which(tool.split()[0]):
            ran(*tool.split(), path)
    for size in menu_entry.SIZES:
        for kind, name in (("apps", "young-tremor"), ("mimetypes", "application-x-young-tremor")):
            picture = cv2.imread(str(share / f"icons/hicolor/{size}x{size}/{kind}/{name}.png"), cv2.IMREAD_UNCHANGED)
            assert picture.shape == (size, size, 4)
            assert picture[..., 3].max() == 255
            assert picture[..., 3].min() == 0
    if shutil.which("update-mime-database"):
        ran("update-mime-database", share / "mime")
        assert "application/x-young-tremor:*.tremor" in (share / "mime/globs").read_text()
        shutil.rmtree(share / "mime")
    assert "complete" in (share / menu_entry.COMPLETIONS["bash"]).read_text()
    assert main(["desktop", "--to", str(share), "--remove"]) == 0
    assert not [each for each in share.rglob("*") if each.is_file()]
    assert main(["desktop"]) == 0, "without a folder it goes to a person's own"
    assert (own_data / f"applications/{menu_entry.APP}.desktop").exists()
    capsys.readouterr()


def test_the_manual_page_and_the_licences_are_of_what_is_installed() -> None:
    packages = runpy.run_path(str(ROOT / "scripts/licences.py"))["packages"]
    text = (preset_library.ASSETS / "licences.txt").read_text()
    for each in packages():
        assert f"\n{each.name} {each.version}: " in text, "refresh it by scripts/licences.py"
    assert "GNU LESSER GENERAL PUBLIC LICENSE" in text
    assert text.count("SIL OPEN FONT LICENSE") >= 4


# a second start


def test_files_go_to_the_window_that_can_take_them() -> None:
    def says(project: str | None, used: float, empty: bool = False) -> single_instance.OpenWindow:
        return single_instance.OpenWindow(project, empty, used)

    here = os.path.realpath("b.tremor")
    windows = [says("/a.tremor", 3), says(here, 1), says(None, 2, empty=True), says(None, 0, empty=True)]
    assert single_instance.choose(windows, []) == 0, "the one used last comes to the front"
    assert single_instance.choose(windows, ["/film.mp4", "/x.png"]) == 0
    assert single_instance.choose(windows, [here, "/film.mp4"]) == 1, "what is open already is not opened twice"
    assert single_instance.choose(windows, ["/new.tremor"]) == 2, "a project goes into an empty window"
    assert single_instance.choose(windows, ["/cut.OTIO"]) == 2
    assert single_instance.choose(windows[:2], ["/new.tremor"]) is None, "or into a new one"
    assert single_instance.choose([], ["/film.mp4"]) is None


def test_a_second_start_finds_the_first(qtbot: QtBot, tmp_path: Path, footage: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    assert not single_instance.hand_over([]), "nobody is there yet"
    desk = Desk(qtbot)
    door = SecondStartListener(desk.window)
    stale = single_instance.folder() / "12345"  # type: ignore[operator]
    shutil.copy(footage, tmp_path / "one.mp4")
    shutil.copy(footage, tmp_path / "two.mp4")

    def start(*args: str) -> bool:
        found: list[bool] = []
        thread = threading.Thread(target=lambda: found.append(single_instance.hand_over(list(args))))
        thread.start()
        desk.until(lambda: bool(found))
        thread.join()
        return found[0]

    with socket.socket(socket.AF_UNIX) as gone:  # of a window that was killed
        gone.bind(str(stale))
    assert not start(str(tmp_path / "no such.mp4")), "the start itself says what is missing"
    assert start(str(tmp_path / "one.mp4"), str(tmp_path / "two.mp4"))
    assert not stale.exists()
    desk.until(lambda: len(desk.project.shots) == 2 and not desk.window.act.files.adding)
    path = tmp_path / "scene.tremor"
    desk.window.desk.session.save(path)
    assert start(str(path)), "it is open there"
    other = tmp_path / "other.tremor"
    shutil.copy(path, other)
    assert not start(str(other)), "the window has something else open"
    assert start()
    assert len(desk.project.shots) == 2
    door.close()
    assert not start()
    desk.close()


class Listener:
    """Something that listens where a window would, and answers each start with the same bytes, slowly if wished."""

    def __init__(self, place: Path, answer: bytes, pause: float = 0.0) -> None:
        self._line = socket.socket(socket.AF_UNIX)
        self._line.bind(str(place))
        self._line.listen()
        self._answer, self._pause, self._ends = answer, pause, threading.Event()
        self._thread = threading.Thread(target=self._serve)
        self._thread.start()

    def _serve(self) -> None:
        while not self._ends.is_set():
            line, _ = self._line.accept()
            with line, suppress(OSError):
                for at in range(len(self._answer)):
                    line.sendall(self._answer[at : at + 1] if self._pause else self._answer)
                    if not self._pause or self._ends.wait(self._pause):
                        break

    def close(self, place: Path) -> None:
        self._ends.set()
        with socket.socket(socket.AF_UNIX) as line, suppress(OSError):
            line.connect(str(place))
        self._thread.join()
        self._line.close()


ANSWERS = [
    b"{}\n",
    b'{"project": null, "empty": true, "used": null}\n',
    b"[" * 100_000 + b"\n",
    b"null\n",
    b"\xff\n",
    b'{"project": 5, "empty": true, "used": 1}\n',
    b'{"project": null, "empty": true, "used": 1e400}\n',
]


def test_a_start_does_not_hang_or_die_of_what_listens_or_lies_where_windows_do(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    monkeypatch.setattr(single_instance, "PATIENCE", 0.5)
    folder = single_instance.folder()
    assert folder is not None
    folder.mkdir(parents=True, mode=0o700)
    for number, answer in enumerate(ANSWERS):
        listener = Listener(folder / str(number + 1), answer)
        assert not single_instance.hand_over([])
        listener.close(folder / str(number + 1))
    listener = Listener(folder / "99", b'{"project": null, "empty": true, "used": 1}\n' * 9, pause=0.05)
    begin = time.monotonic()
    assert not single_instance.hand_over([])
    assert time.monotonic() - begin < 5 * single_instance.PATIENCE
    listener.close(folder / "99")
    (folder / "7").write_text("no socket")
    (folder / "8").symlink_to(folder / "99")
    for number in range(3000):
        (folder / f"junk {number}").touch()
    assert not single_instance.hand_over([str(tmp_path)] * 5000)
    assert not single_instance.hand_over([])
    assert (folder / "7").exists()
    folder.chmod(0o777)  # somebody else may put a socket there
    assert single_instance.listen() is None
    assert single_instance._listening() == []


def test_a_window_answers_strangers_and_slow_starts_without_waiting(
    qtbot: QtBot, tmp_path: Path, footage: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    desk = Desk(qtbot)
    door = SecondStartListener(desk.window)
    place = door._line[1]  # type: ignore[index]
    good = json.dumps({"do": "open", "files": [str(footage), 5, None, "a\0b", {}], "token": 7}).encode() + b"\n"
    with ExitStack() as lines:
        for words in (
            b"{",
            b"[" * 50_000 + b"\n",
            b'{"do": "open", "files": 3}\n',
            b'{"do": "open", "files": {}}\n',
            good,
        ):
            line = lines.enter_context(socket.socket(socket.AF_UNIX))
            line.connect(str(place))
            line.sendall(words)
        desk.until(lambda: len(desk.project.shots) == 1 and not desk.window.act.files.adding)
        desk.until(lambda: not door._callers)  # also the one that never ended its sentence
    door.close()
    desk.close()


# the desktop's services


class Services:
    """Notifications and a login manager on a bus of their own, that keep what they were asked."""

    def __init__(self, address: str) -> None:
        self.asked: list[tuple[str, tuple]] = []
        self.came = threading.Event()
        self._line = open_dbus_connection(address, enable_fds=True)
        for name in ("org.freedesktop.Notifications", "org.freedesktop.login1", desktop_bus.PORTAL):
            self._line.send_and_get_reply(message_bus.RequestName(name))
        self._held, self._theirs = os.pipe()
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    def _serve(self) -> None:
        while True:
            try:
                message = self._line.receive()
            except (OSError, EOFError):
                return
            if message.header.message_type is not MessageType.method_call:
                continue
            method = message.header.fields[HeaderFields.member]
            self.asked.append((method, message.body))
            if method == "Notify":
                self._line.send(new_method_return(message, "u", (7,)))
            elif method == "Inhibit":
                self._line.send(new_method_return(message, "h", (self._theirs,)))
                os.close(self._theirs)
                self._theirs = -1
            else:
                self._line.send(new_error(message, "no.such.method"))
            self.came.set()

    def close(self) -> None:
        self._thread.join(10)
        self._line.close()
        os.close(self._held)
        if self._theirs >= 0:
            os.close(self._theirs)

    def let_go(self) -> bool:
        """Whether whoever held the machine awake has let go."""
        os.set_blocking(self._held, False)
        try:
            return os.read(self._held, 1) == b""
        except BlockingIOError:
            return False


@pytest.fixture
def services(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Services]:
    if shutil.which("dbus-daemon") is None:
        pytest.skip("there is no dbus-daemon")
    bus = subprocess.Popen(
        ["dbus-daemon", "--session", "--nofork", "--print-address", f"--address=unix:path={tmp_path}/bus"],
        stdout=subprocess.PIPE,
        text=True,
    )
    assert bus.stdout is not None
    address = bus.stdout.readline().strip()
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)
    monkeypatch.setenv("DBUS_SYSTEM_BUS_ADDRESS", address)
    made = Services(address)
    yield made
    bus.kill()
    made.close()
    bus.wait()
    bus.stdout.close()


def test_the_machine_stays_awake_while_a_film_is_written_and_no_longer(
    services: Services, footage: Path, tmp_path: Path
) -> None:
    shot = actions.one_shot(footage, preset_library.preset("walking"), seconds=0.2)
    seen = []
    actions.render((shot,), tmp_path / "a.mp4", lambda done, total: seen.append(services.let_go()))
    method, body = services.asked[0]
    assert method == "Inhibit"
    assert body[0] == "sleep"
    assert "a.mp4" in body[2]
    assert seen
    assert not any(seen)
    assert services.let_go()
    assert desktop_bus.has_portals()


def test_the_end_of_a_long_delivery_is_told_while_nobody_looks(services: Services, qtbot: QtBot) -> None:
    desk = Desk(qtbot)
    herald, row = (
        DeliveryNotifier(desk.window),
        QueuedDelivery(DeliveryRequest("reel", "/films/reel.mp4"), "done", "Nothing to say"),
    )
    herald._ended(row, LONG - 1)
    desk.window.activateWindow()
    desk.until(lambda: QApplication.activeWindow() is not None)
    herald._ended(row, LONG + 1)
    assert not services.asked
    desk.window.hide()
    desk.until(lambda: QApplication.activeWindow() is None)
    herald.ended(row, LONG + 1)
    desk.until(lambda: services.came.is_set())
    method, body = services.asked[0]
    assert method == "Notify"
    assert body[0] == "Young Tremor"
    assert body[3].startswith("Delivered: ")
    assert body[4] == "Nothing to say"
    desk.close()


def test_without_a_bus_everything_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    for bus in ("SESSION", "SYSTEM"):
        monkeypatch.setenv(f"DBUS_{bus}_BUS_ADDRESS", "unix:path=/nowhere/at/all")
    assert not desktop_bus.has_portals()
    assert not desktop_bus.notify("a", "b")
    with desktop_bus.awake("c") as granted:
        assert not granted


def test_a_print_gives_its_delivered_file(qtbot: QtBot, footage: Path, tmp_path: Path) -> None:
    desk = Desk(qtbot)
    desk.open(footage)
    print_ = desk.window.desk.reel._prints[desk.shot.id]
    desk.context(print_, 40, 40)
    desk.pick("Copy its delivered file")
    assert "has not been delivered yet" in desk.said()
    desk.window.desk.sheet.list.add(DeliveryRequest("each", str(tmp_path / "made.mp4")))
    desk.window.desk.sheet.list.start()
    desk.until(lambda: not desk.window.desk.sheet.list.running)
    desk.context(print_, 40, 40)
    desk.pick("Copy its delivered file")
    urls = QApplication.clipboard().mimeData().urls()
    assert [url.toLocalFile() for url in urls] == [str(tmp_path / "made.mp4")]
    assert "made.mp4 is copied" in desk.said()
    desk.close()


# packages


def test_the_wheels_carry_all_they_need(tmp_path: Path) -> None:
    ran(ROOT / "scripts/wheels.sh", tmp_path, env={**os.environ, "PYTHON": sys.executable})
    assert len([*tmp_path.glob("young_tremor-*.tar.gz")]) == 1
    wheels = {each.name.rpartition("_")[2].removesuffix(".whl"): each for each in tmp_path.glob("*.whl")}
    wheel = wheels["64" if platform.machine() == "x86_64" else platform.machine()]
    if shutil.which("aarch64-linux-gnu-gcc"):
        with zipfile.ZipFile(wheels["aarch64"]) as packed:
            library = packed.read("young_tremor/kernels/_kernels.so")
        assert struct.unpack_from("<4s14xH", library) == (b"\x7fELF", 183)  # ELF's number of ARM64
    with zipfile.ZipFile(wheel) as packed:
        names = set(packed.namelist())
        packed.extractall(tmp_path / "site")
    ours = {str(p.relative_to(ROOT / "src")) for p in (ROOT / "src/young_tremor").rglob("*") if p.is_file()}
    assert {each for each in ours if not each.endswith((".pyc", ".c", ".h"))} <= names  # compiled, they are not needed
    assert wheel.name.split("-")[2:4] == ["py3", "none"]
    assert "kernels/_kernels.so" in " ".join(names)
    assert any(each.endswith("data/share/man/man1/young-tremor.1") for each in names)
    env = {"PATH": os.environ["PATH"], "HOME": str(tmp_path), "PYTHONPATH": str(tmp_path / "site")}
    there = ran(sys.executable, "-c", "import young_tremor; print(young_tremor.__file__)", cwd=tmp_path, env=env)
    assert there.stdout.startswith(str(tmp_path))
    run = (sys.executable, "-m", "young_tremor")
    film = tmp_path / "site/young_tremor/assets/demo/press-wide.mp4"
    ran(*run, "shake", film, "-o", "out.mp4", "--seconds", "0.2", cwd=tmp_path, env=env)
    assert "kind: footage" in ran(*run, "info", "out.mp4", cwd=tmp_path, env=env).stdout
    assert "stand-ins" not in ran(*run, "info", "--system", cwd=tmp_path, env=env).stdout


@pytest.mark.skipif(shutil.which("dpkg-deb") is None or not Path("/usr/bin/python3").exists(), reason="not on Debian")
def test_the_debian_package_is_installed_runs_and_is_removed(tmp_path: Path) -> None:
    film = clip(tmp_path / "still.mp4", frames=6, size=(320, 180))
    own = {**os.environ, "LEVEL": "1", "PIP_PYTHON": sys.executable}
    packed = ran(ROOT / "scripts/debian.sh", tmp_path / "dist", env=own).stdout.strip()
    root, base = tmp_path / "root", ["--force-not-root", "--force-script-chrootless", "--log=/dev/null"]
    (root / "var/lib/dpkg/updates").mkdir(parents=True)
    (root / "var/lib/dpkg/info").mkdir()
    (root / "var/lib/dpkg/status").touch()
    env = {"PATH": "/usr/sbin:/usr/bin:/sbin:/bin", "HOME": str(tmp_path / "nobody"), "QT_QPA_PLATFORM": "offscreen"}
    ran("dpkg", f"--root={root}", *base, "--force-depends", "-i", packed, env=env)
    run = root / "usr/bin/young-tremor"
    assert __version__ in ran(run, "--version", env=env).stdout
    ran(run, "shake", film, "-o", tmp_path / "shaken.mp4", env=env)
    reader = cv2.VideoCapture(str(tmp_path / "shaken.mp4"))
    read, picture = reader.read()
    assert read
    assert np.ptp(picture) > 20
    # the window opens: asked for what is not there it says so, and imports everything of Qt on the way
    opened = subprocess.run([run, "nothing.mp4"], env=env, capture_output=True, text=True, check=False, timeout=120)
    assert (opened.returncode, opened.stderr.count("\n")) == (2, 1)
    assert "nothing.mp4 is not there" in opened.stderr
    ran("dpkg", f"--root={root}", *base, "--purge", "young-tremor", env=env)
    assert not [each for each in (root / "usr").rglob("*") if not each.is_dir()]
