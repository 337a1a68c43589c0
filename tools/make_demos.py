"""Makes the demo shops in src/purvel/demo from the plain sources in tools/demo_shops.

Run it after a change there or in the catalogue.
"""

from pathlib import Path

from demo_shops import DEMOS
from purvel.files import saves

TARGET = Path(__file__).parent.parent / "src" / "purvel" / "demo"

if __name__ == "__main__":
    for name, make in DEMOS.items():
        (TARGET / f"{name}.purvel").write_bytes(saves(make()))
        print(f"made {name}.purvel")
