"""The document: a shop with the bytes of its attachments, by their hash."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from hashlib import sha256
from typing import Literal

from purvel.shop import Attachment, Shop
from purvel.shop.edits import fresh_id, put
from purvel.shop.fields import one_line

MOST, LARGEST, LARGEST_TOGETHER = 64, 64 * 2**20, 256 * 2**20  # attachments; bytes of one; bytes of all


class AttachmentError(ValueError):
    """An attachment that cannot be taken; the sentence says why."""


@dataclass(frozen=True, eq=False)
class Document:
    """What a file holds. `blobs` may have more than the shop names, such as those that undo brings back;
    `said` is what had to be changed in it to open it, in a sentence.
    """

    shop: Shop
    blobs: Mapping[str, bytes] = field(default_factory=dict)
    said: str = ""

    def named(self) -> dict[str, bytes]:
        """The blobs that the shop names. Raises KeyError for one that is not there."""
        return {one.sha256: self.blobs[one.sha256] for one in self.shop.attachments}


def attached(
    document: Document,
    name: str,
    data: bytes,
    kind: Literal["log", "alternative", "picture", "other"] = "other",
) -> Document:
    """The document with an attachment more, its name on one line; equal bytes are kept once.

    Raises AttachmentError beyond the bounds.
    """
    name = one_line(name)[:200]
    if len(document.shop.attachments) >= MOST:
        raise AttachmentError(f"A shop file holds at most {MOST} attachments.")
    if len(data) > LARGEST:
        raise AttachmentError(f"“{name}” is larger than {LARGEST // 2**20} MB.")
    digest = sha256(data).hexdigest()
    if sum(len(blob) for blob in (document.named() | {digest: data}).values()) > LARGEST_TOGETHER:
        raise AttachmentError(f"All attachments together may have {LARGEST_TOGETHER // 2**20} MB.")
    made = Attachment(id=fresh_id(document.shop, "attachment"), name=name, kind=kind, sha256=digest)
    return replace(document, shop=put(document.shop, made), blobs={**document.blobs, digest: data})
