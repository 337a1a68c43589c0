"""Attachments: files that go with the shop, such as logs and other arrangements.

Their bytes lie beside the document.
"""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Id, Name

Sha256 = Annotated[str, Meta(pattern=r"^[0-9a-f]{64}$", description="SHA-256 of the bytes")]


@dataclass(frozen=True, slots=True, kw_only=True)
class Attachment:
    """What an attachment is called and what it is; `sha256` finds its bytes in the container."""

    id: Id
    name: Name = ""
    kind: Literal["log", "alternative", "picture", "other"] = "other"
    sha256: Sha256
