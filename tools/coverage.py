"""Says by room which share of the lines the last run reached: python -m tools.coverage"""

from __future__ import annotations

from collections import defaultdict
from pathlib import Path

from coverage import Coverage

ROOT = Path(__file__).resolve().parent.parent


def main() -> None:
    """Reads what `pytest --cov` left behind."""
    measured = Coverage(data_file=str(ROOT / ".coverage"))
    measured.load()
    rooms: dict[str, list[int]] = defaultdict(lambda: [0, 0])
    for file in measured.get_data().measured_files():
        place = Path(file).resolve().relative_to(ROOT / "outgrowth")
        _, statements, _, missing, _ = measured.analysis2(file)
        room = "/".join(place.parts[:2][: len(place.parts) - 1]) or "the package itself"
        rooms[room][0] += len(statements)
        rooms[room][1] += len(missing)
    for room, (lines, missed) in sorted(rooms.items()):
        print(f"{room:28} {lines:7,} lines  {100 * (lines - missed) / max(lines, 1):6.1f} %")
    lines, missed = (sum(column) for column in zip(*rooms.values(), strict=True))
    print(f"{'all':28} {lines:7,} lines  {100 * (lines - missed) / max(lines, 1):6.1f} %")


if __name__ == "__main__":
    main()
