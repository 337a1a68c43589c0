"""What every test is watched for: each of these leaves something behind, and must fail for it."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
LEAVES = {
    "a timer": "    timer = KnownTimer()\n    timer.start(50)\n    globals()['kept'] = timer",
    "a window": "    window = QDialog()\n    window.show()\n    globals()['kept'] = window",
    "a thread": "    threading.Thread(target=time.sleep, args=(8,), daemon=True).start()",
    "a warning in the log": "    logging.getLogger('purvel').warning('left')",
    "a message of Qt's": "    qWarning('left')",
    "nothing": "    assert bench.window.isVisible()",
}
HEAD = """
import logging, threading, time
from PySide6.QtCore import qWarning
from PySide6.QtWidgets import QDialog
from tests.app.conftest import *
from tests.conftest import *

def test_it(bench):
"""


@pytest.mark.parametrize("what", LEAVES)
def test_a_test_fails_for_what_it_leaves(tmp_path: Path, what: str) -> None:
    made = tmp_path / "test_leaves.py"
    made.write_text(HEAD + LEAVES[what] + "\n")
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-q",
        "-p",
        "no:cacheprovider",
        "--rootdir",
        str(tmp_path),
        str(made),
    ]
    env = {**os.environ, "PYTHONPATH": str(ROOT), "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(command, env=env, cwd=tmp_path, capture_output=True, text=True, check=False)
    assert (done.returncode == 0) is (what == "nothing"), done.stdout[-2000:]
    assert "1 passed" in done.stdout if what == "nothing" else "error" in done.stdout, done.stdout[-2000:]
