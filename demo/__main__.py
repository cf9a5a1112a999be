"""`bin/demo`: the ferry line in a window, with a library of its team and two who publish there."""

from __future__ import annotations

import argparse
import sys
import time
from pathlib import Path

from demo.team import FerryTeam, demo_file
from outgrowth.app.main import run
from outgrowth.core.refusal import Refusal
from outgrowth.resources import DEMO
from outgrowth.workspace.libraries import data_folder


def main() -> int:
    """Opens the demo, where nothing can be kept the shipped file without a team."""
    parser = argparse.ArgumentParser(prog="demo", description=__doc__)
    parser.add_argument("--dark", action="store_const", const=True, help="begin with the dark look")
    parser.add_argument("--on", default="", metavar="NAME", help="the component or screen to show")
    parser.add_argument("--shot", type=Path, help="save a picture of the window and end")
    arguments = parser.parse_args()
    try:
        file = demo_file(data_folder(), int(time.time()))
    except (OSError, Refusal):
        file = DEMO
    return run(file, arguments.dark, arguments.shot, arguments.on, FerryTeam())


if __name__ == "__main__":
    sys.exit(main())
