"""Prints what came of every command under every condition.

python -m tests.scarce [CONDITION ...]
"""

from __future__ import annotations

import shutil
import sys
import tempfile
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.scarce.table import CONDITIONS, Room, commands, run, wrong


def main(names: list[str]) -> int:
    chosen = names or [name for name in CONDITIONS if name != "plenty"]
    found = 0
    with tempfile.TemporaryDirectory() as place, ThreadPoolExecutor(2) as pool:
        Path(place).chmod(0o755)
        start = Room(Path(place) / "start").made()

        def fresh(name: str) -> Room:
            return start.copied(Path(place) / name, name.partition("-")[2])

        def plain(command: str) -> tuple[str, object]:
            room = fresh(f"plenty-{command}")
            return command, run(commands(room)[command], room)

        plenty = dict(pool.map(plain, commands(start)))
        for command, outcome in plenty.items():
            print(f"plenty · {command}: {outcome.code} {outcome.error[:100]!r}")

        def pair(number: int, command: str, name: str) -> tuple[str, str, int, str | None]:
            room = fresh(f"{number}-{command}")
            outcome = run(commands(room)[command], room, CONDITIONS[name])
            same = outcome._replace(
                out=outcome.out.replace(str(room.folder), ""),
            )
            before = plenty[command]
            before = before._replace(
                out=before.out.replace(str(Path(place) / f"plenty-{command}"), "")
            )
            told = wrong(command, name, same, before, room)
            shutil.rmtree(room.folder, ignore_errors=True)
            return command, name, outcome.code, told

        for number, name in enumerate(chosen):
            codes: Counter[int] = Counter()
            results = pool.map(lambda c, n=number, w=name: pair(n, c, w), commands(start))
            for command, _, code, told in results:
                codes[code] += 1
                if told:
                    found += 1
                    print(f"WRONG {name} · {command}: {told}", flush=True)
            print(f"{name}: {dict(sorted(codes.items()))}", flush=True)
    print(f"{found} of {len(chosen) * len(commands(start))} pairs are wrong")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
