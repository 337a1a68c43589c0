"""The desktop's entry and file type."""

import configparser
import os
import subprocess
import sys
import xml.etree.ElementTree as ET
from pathlib import Path

from purvel import desktop


def test_the_desktop_entry_is_put_in_place_and_taken_away(tmp_path: Path) -> None:
    written = desktop.install(tmp_path, '/home/me/my tools/100% "wood"/purvel')
    assert all(path.is_file() for path in written)
    entry = configparser.RawConfigParser(delimiters=("=",))
    entry.optionxform = str  # type: ignore[assignment,method-assign]
    entry.read(tmp_path / desktop.ENTRY)
    said = entry["Desktop Entry"]
    assert said["Exec"] == '"/home/me/my tools/100%% \\\\"wood\\\\"/purvel" --say-in-window %f'
    assert said["MimeType"] == "application/x-purvel;" and said["Icon"] == "purvel"
    root = ET.parse(tmp_path / desktop.TYPE).getroot()
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    (glob,) = root.iter(f"{space}glob")
    assert glob.get("pattern") == "*.purvel"
    assert ET.parse(tmp_path / desktop.ICON).getroot().tag.endswith("svg")
    assert set(desktop.taken_away(tmp_path)) == set(written) and desktop.taken_away(tmp_path) == []
    assert not any(path.is_file() for path in tmp_path.rglob("*.desktop"))


def test_the_command_says_what_it_did(tmp_path: Path) -> None:
    def run(*words: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "purvel", "install-desktop", *words],
            env={**os.environ, "XDG_DATA_HOME": str(tmp_path)},
            capture_output=True,
            text=True,
            check=False,
        )

    put = run()
    assert put.returncode == 0 and put.stdout.count("Written:") == 4
    assert (tmp_path / desktop.ENTRY).is_file()
    assert run("--remove").stdout.count("Removed:") == 4
    assert run("--remove").stdout == "Nothing was in place.\n"
    (tmp_path / "applications").rmdir()
    (tmp_path / "applications").write_text("a file where a folder should be")
    refused = run()
    assert (
        refused.returncode == 2 and refused.stderr.count("\n") == 1 and "cannot be changed" in refused.stderr
    )
