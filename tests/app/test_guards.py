"""What every test is watched for: each of these leaves something behind, and must fail for it."""

import os
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[2]
LEAVES = {
    "a_timer": "    timer = KnownTimer()\n    timer.start(50)\n    globals()['kept'] = timer",
    "a_window": "    window = QDialog()\n    window.show()\n    globals()['shown'] = window",
    "a_thread": "    threading.Thread(target=time.sleep, args=(8,), daemon=True).start()",
    "a_warning_in_the_log": "    logging.getLogger('purvel').warning('left')",
    "a_message_of_Qts": "    qWarning('left')",
    "nothing": "    assert bench.window.isVisible()",
}
HEAD = """
import logging, threading, time
from PySide6.QtCore import qWarning
from PySide6.QtWidgets import QDialog
from tests.app.conftest import *
from tests.conftest import *
"""


def test_a_test_fails_for_what_it_leaves(tmp_path: Path) -> None:
    """Each only for its own: the last leaves nothing, and passes after all the others."""
    made = tmp_path / "test_leaves.py"
    tests = (f"\ndef test_{name}(bench):\n{body}\n" for name, body in LEAVES.items())
    made.write_text(HEAD + "".join(tests))
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-rA",
        "-q",
        "-p",
        "no:cacheprovider",
        "--rootdir",
        str(tmp_path),
    ]
    env = {**os.environ, "PYTHONPATH": str(ROOT), "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [*command, str(made)], env=env, cwd=tmp_path, capture_output=True, text=True, check=False
    )
    failed = set(re.findall(r"^(?:ERROR|FAILED) \S+::test_(\w+)", done.stdout, re.M))
    assert failed == LEAVES.keys() - {"nothing"}, done.stdout[-2000:]
    assert re.search(r"^PASSED \S+::test_nothing", done.stdout, re.M), done.stdout[-2000:]
