"""Start again after kills, 500 times: benchmarks/starts.py [--count 500] [--workers 2].

Each time some processes work on projects and keep what is not saved, each in a process namespace of its own where that
is allowed (so that every one of them is number 1, as in containers), and are killed in the middle of it. Then a new
process starts in such a namespace and reads everything that was kept in eight cold threads at once. It must not die, it
must be offered every project, each as it was last kept, and another start beside it must not be offered what it took.
"""

from __future__ import annotations

import argparse
import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

WORK = """
import sys, time
from young_tremor.engine import library, recovery
from young_tremor.engine.session import Session
from young_tremor.model import edits
session = Session(library.demo_project())
keeper = recovery.Keeper(session, every=0.02)
notes = open(sys.argv[1], "w", buffering=1)
number, kept = 0, -1
while True:
    number += 1
    session.apply("Name", edits.set_shot(session.project.shots[0].id, name=str(number)))
    keeper.look()
    written = keeper._written
    if written is not None and int(written.shots[0].name) > kept:
        kept = int(written.shots[0].name)
        notes.write(f"{kept}\\n")
    time.sleep(0.003)
"""
START = """
import json, sys, threading
from young_tremor.engine import recovery
from young_tremor.engine.session import Session
kept = recovery.left_behind()
gate, names = threading.Barrier(8), set()
def read():
    gate.wait()
    for each in kept:
        names.add(recovery.read(each).shots[0].name)
threads = [threading.Thread(target=read) for _ in range(8)]
[t.start() for t in threads]
[t.join() for t in threads]
keepers = []
for each in kept:
    keeper = recovery.Keeper(Session())
    keeper.go_on(each)
    keepers.append(keeper)
print(json.dumps({"names": sorted(names), "offered": len(kept), "then": len(recovery.left_behind())}), flush=True)
[keeper.drop() for keeper in keepers]
"""


def apart() -> list[str]:
    """What runs a command in a process namespace of its own; nothing where that is not allowed."""
    command = ["unshare", "--pid", "--fork", "--kill-child"]
    tried = shutil.which("unshare") and subprocess.run([*command, "true"], check=False, capture_output=True)
    return command if tried and tried.returncode == 0 else []


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--workers", type=int, default=2)
    arguments = parser.parse_args()
    namespace, chance, bad, died = apart(), random.Random(7), [], 0
    for number in range(arguments.count):
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            environment = os.environ | {"XDG_STATE_HOME": name, "XDG_CONFIG_HOME": name, "XDG_DATA_HOME": name}
            notes = [folder / f"notes {worker}" for worker in range(arguments.workers)]
            workers = [
                subprocess.Popen(
                    [*namespace, sys.executable, "-c", WORK, str(note)],
                    env=environment,
                    stderr=subprocess.DEVNULL,
                    start_new_session=True,
                )
                for note in notes
            ]
            while not all(note.exists() and note.read_text() for note in notes):
                time.sleep(0.01)
            time.sleep(chance.uniform(0.0, 0.3))
            for worker in workers:
                os.killpg(worker.pid, signal.SIGKILL)
                worker.wait()
            done = subprocess.run(
                [*namespace, sys.executable, "-c", START], env=environment, text=True, capture_output=True, check=False
            )
            if done.returncode != 0:
                died += 1
                bad.append(f"start {number} ended with {done.returncode}: {done.stderr[-200:]}")
                continue
            answer = json.loads(done.stdout)
            least = sorted(int(note.read_text().split()[-1]) for note in notes)
            names = sorted(map(int, answer["names"]))
            if answer["offered"] != arguments.workers or answer["then"] != 0:
                bad.append(f"start {number} was offered {answer['offered']}, another one {answer['then']}")
            elif len(names) == arguments.workers and any(a < b for a, b in zip(names, least, strict=True)):
                bad.append(f"start {number} found {names}, kept were {least}")
        if (number + 1) % 50 == 0:
            print(f"{number + 1}: {died} died, {len(bad)} wrong", flush=True)
    where = "in process namespaces of their own" if namespace else "without process namespaces"
    kills = arguments.count * arguments.workers
    print(f"{arguments.count} starts after {kills} kills {where}: {died} died, {len(bad)} wrong")
    for words in bad[:10]:
        print(words)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
