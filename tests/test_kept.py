"""Work that must not be lost: kept and saved by several threads and processes, on full disks, after kills."""

from __future__ import annotations

import errno
import multiprocessing
import os
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from msgspec.structs import replace

from clips import clip
from young_tremor.base import files
from young_tremor.base.errors import ChangedOnDisk, DiskError, RequestError, TremorError
from young_tremor.document import codec, store
from young_tremor.engine.delivery import batch
from young_tremor.engine.document import recovery
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import relink
from young_tremor.model import shot_edits
from young_tremor.model.project import Media, Plate, Project, Shot
from young_tremor.model.shake import Shake
from young_tremor.model.sound import Layer, Mix

COLD = """
import sys, threading
from pathlib import Path
from young_tremor.document import store
gate = threading.Barrier(8)
def read():
    gate.wait()
    for path in sys.argv[1:]:
        store.load(Path(path))
threads = [threading.Thread(target=read) for _ in range(8)]
[t.start() for t in threads]
[t.join() for t in threads]
"""


def quiet(done: int, total: int) -> None:
    pass


def named(name: str) -> Project:
    return Project((Shot("s", name, (Plate("p", "Plate", Media("/nowhere/press.mp4")),), Shake()),))


@pytest.fixture
def full_disk(monkeypatch: pytest.MonkeyPatch) -> list[bool]:
    """Writing of parts fails while the list is not empty."""
    full, write = [], files.PartFile.write

    def fail(part: files.PartFile, data: bytes) -> None:
        if full:
            write(part, data[: len(data) // 2])
            raise OSError(errno.ENOSPC, "No space left on device")
        write(part, data)

    monkeypatch.setattr(files.PartFile, "write", fail)
    return full


def test_cold_threads_decode_documents_at_once(tmp_path: Path) -> None:
    paths = [tmp_path / f"{n}.tremor" for n in range(2)]
    for path in paths:
        store.save(preset_library.demo_project(), path)
    for _ in range(4):
        assert subprocess.run([sys.executable, "-c", COLD, *map(str, paths)], check=False).returncode == 0


def test_keeping_that_fails_is_said_once_and_tried_until_it_is_on_disk(full_disk: list[bool]) -> None:
    session, now, said = Session(), [0.0], []
    keeper = recovery.Keeper(session, clock=lambda: now[0], every=60)
    keeper.failed.connect(said.append)
    keeper.kept_again.connect(lambda: said.append("again"))
    session.apply("Name", shot_edits.replace_project(named("Proof")))

    def work_until(second: float) -> None:
        while now[0] < second:
            now[0] += 1
            keeper.look()
            if keeper._job is not None:
                keeper._job.wait(20)

    full_disk.append(True)
    work_until(100)
    assert len(said) == 1
    assert "disk is full" in said[0]
    assert keeper.path is not None
    assert not keeper.path.exists()
    full_disk.clear()
    work_until(115)  # well before the next minute
    assert said[1:] == ["again"]
    assert store.load(keeper.path).shots[0].name == "Proof"
    assert not [path for path in keeper.path.parent.iterdir() if files.is_part(path.name)]


def test_kept_work_is_offered_to_one_window_whatever_the_process_numbers(tmp_path: Path) -> None:
    """As in containers, where each application may have the same number."""
    script = (
        "import os, sys; sys.path.insert(0, 'tests'); os.getpid = lambda: 1\n"
        "from test_kept import named; from young_tremor.engine.document import recovery\n"
        "from young_tremor.model import shot_edits\n"
        "from young_tremor.engine.document.session import Session\n"
        "s = Session(); s.apply('Name', shot_edits.replace_project(named('Killed')))\n"
        "recovery.Keeper(s).keep_now(); os._exit(9)\n"
    )
    assert subprocess.run([sys.executable, "-c", script], check=False).returncode == 9
    os_getpid, os.getpid = os.getpid, lambda: 1
    try:
        (kept,) = recovery.left_behind()
        mine = recovery.Keeper(Session())
        mine.go_on(kept)
        assert recovery.left_behind() == []
        with pytest.raises(RequestError, match="Another window"):
            recovery.Keeper(Session()).go_on(kept)
        assert mine._session.project.shots[0].name == "Killed"
    finally:
        os.getpid = os_getpid


@pytest.mark.parametrize("known", [True, False])
def test_of_two_savings_at_the_same_moment_one_is_refused(tmp_path: Path, known: bool) -> None:
    path = tmp_path / "night.tremor"
    for number in range(12):
        before = store.save(named("Before"), path, force=True) if known else None
        gate, answers = threading.Barrier(2), []

        def save(name: str, before: store.OnDisk | None = before, gate=gate, answers=answers) -> None:
            gate.wait()
            try:
                store.save(named(name), path, known=before)
                answers.append(name)
            except ChangedOnDisk:
                answers.append("")

        threads = [threading.Thread(target=save, args=(f"{side}{number}",)) for side in "ab"]
        [thread.start() for thread in threads]
        [thread.join() for thread in threads]
        won = [name for name in answers if name]
        assert store.load(path).shots[0].name in won
        if known:
            assert len(won) == 1
        elif len(won) == 2:  # one after the other: the first is kept beside it
            assert store.load(path.with_name("night.tremor~")).shots[0].name == won[0]
        path.unlink()
        path.with_name("night.tremor~").unlink(missing_ok=True)
    assert list(tmp_path.iterdir()) == []


def test_a_save_on_a_full_disk_leaves_the_file_and_its_backup_and_nothing_else(
    tmp_path: Path, full_disk: list[bool]
) -> None:
    path = tmp_path / "night.tremor"
    store.save(named("One"), path)
    store.save(named("Two"), path)
    for _ in range(3):
        full_disk.append(True)
        with pytest.raises(DiskError):
            store.save(named("Lost"), path)
        full_disk.clear()
    os.link(path, tmp_path / "link")
    (tmp_path / "link").replace(tmp_path / "night.tremor~")  # as an interrupted saving left it
    store.save(named("Three"), path)
    assert {each.name for each in tmp_path.iterdir()} == {"night.tremor", "night.tremor~"}
    assert store.load(path).shots[0].name == "Three"
    assert store.load(tmp_path / "night.tremor~").shots[0].name == "Two"


def test_parts_belong_to_the_call_that_makes_them(tmp_path: Path) -> None:
    def end(path: str) -> None:
        os._exit(0 if Path(path).exists() else 1)

    with files.PartFile(tmp_path / "film.mp4") as part:
        part.write(b"half")
        from young_tremor.cli.main import main

        worker = threading.Thread(target=main, args=(["presets", "--json"],))
        worker.start()
        worker.join()
        child = os.fork()
        if child == 0:
            part.abandon()  # what a child's way out does
            end(str(part.path))
        assert os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]) == 0
        part.write(b" and half")
        part.finish(overwrite=False)
    assert (tmp_path / "film.mp4").read_bytes() == b"half and half"
    with pytest.raises(KeyboardInterrupt), files.PartFile(tmp_path / "other.mp4"):
        raise KeyboardInterrupt
    assert [each.name for each in tmp_path.iterdir()] == ["film.mp4"]


def test_gathering_takes_media_alone_and_nothing_leads_outside(tmp_path: Path) -> None:
    a = clip(tmp_path / "a.mp4", frames=6, audio=True)
    secret = tmp_path / ".secret"
    secret.write_text("password")
    shot = batch.make_reel((a,), preset_library.starting_preset()).shots[0]
    rows = tuple(
        Layer(id=f"l{n}", path=path) for n, path in enumerate(("/etc/passwd", str(secret), "/proc/self/environ"))
    )
    bad = Plate("q", "Passwords", Media("/etc/passwd"))
    project = Project((replace(shot, plates=(*shot.plates, bad), sound=Mix(rows=rows)),))
    away = tmp_path / "away"
    gathered = relink.gather(project, away, "../../outside", quiet)
    assert gathered.path.parent == away
    assert {path.name for path in away.rglob("*") if path.is_file()} == {"a.mp4", gathered.path.name}
    assert set(gathered.left_out) == {"/etc/passwd", str(secret), "/proc/self/environ"}
    assert "passwd" in gathered.words()


def test_a_gathering_that_was_stopped_goes_on_and_is_whole_on_a_full_disk(
    tmp_path: Path, full_disk: list[bool]
) -> None:
    clips = tuple(clip(tmp_path / f"{name}.mp4", frames=6) for name in "abc")
    project, away = batch.make_reel(clips, preset_library.starting_preset()), tmp_path / "away"

    def stop_at(which: int):  # type: ignore[no-untyped-def]
        def report(done: int, total: int) -> None:
            if done == which:
                full_disk.append(True)

        return report

    with pytest.raises(TremorError, match="disk is full"):
        relink.gather(project, away, "scene", stop_at(1))
    full_disk.clear()
    whole = {path.name: path.stat().st_mtime_ns for path in (away / "footage").iterdir()}
    assert set(whole) == {"a.mp4"}
    assert relink.gather(project, away, "scene", quiet).path.exists()
    copied = sorted((away / "footage").iterdir())
    assert [path.read_bytes() for path in copied] == [path.read_bytes() for path in clips]
    assert sorted(path.name for path in away.iterdir()) == ["footage", "scene.tremor"]
    with pytest.raises(RequestError, match="not empty"):
        relink.gather(project, away, "scene", quiet)


def _read_forever(path: str, ends) -> None:  # type: ignore[no-untyped-def]
    seen = set()
    while not ends.is_set():
        try:
            seen.add(store.load(Path(path)).shots[0].name)
        except TremorError as error:
            os._exit(1 if "not there" not in str(error) else 2)


def test_a_reader_in_another_process_never_sees_half_a_file(tmp_path: Path) -> None:
    path, spawn = tmp_path / "night.tremor", multiprocessing.get_context("spawn")
    store.save(named("0"), path)
    ends = spawn.Event()
    reader = spawn.Process(target=_read_forever, args=(str(path), ends))
    reader.start()
    for number in range(200):
        files.write_whole(codec.encode_project(named(str(number)), tmp_path), path)
    ends.set()
    reader.join(30)
    assert reader.exitcode == 0
