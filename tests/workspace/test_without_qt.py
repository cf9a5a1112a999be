"""The workspace where PyQt6 cannot be imported."""

import subprocess
import sys
from pathlib import Path

RUN = """
import sys
sys.modules["PyQt6"] = None
import importlib, pkgutil
import outgrowth.core, outgrowth.workspace, demo
for package in (outgrowth.core, outgrowth.workspace, demo):
    for module in pkgutil.walk_packages(package.__path__, package.__name__ + "."):
        if not module.name.endswith("__main__"):
            importlib.import_module(module.name)
import pytest
options = ["-q", "-p", "no:pytest-qt", "-W", "ignore::pytest.PytestConfigWarning"]
tests = ["tests/workspace/test_every_action.py", "tests/workspace/test_commands.py"]
sys.exit(pytest.main([*options, *tests]))
"""


def test_every_room_is_imported_and_every_command_runs():
    ran = subprocess.run(
        [sys.executable, "-c", RUN],
        cwd=Path(__file__).parents[2],
        capture_output=True,
        text=True,
        check=False,
    )
    assert ran.returncode == 0, ran.stdout[-3000:] + ran.stderr[-3000:]
