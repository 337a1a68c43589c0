"""The day in the binder, and runs compared with their conditions."""

from purvel.app.sheets.binder import binder_text
from purvel.app.sheets.drawing import pages_of
from purvel.app.stages.air.pages import PAGES
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Memory, Review, review
from purvel.shop import Shop


def checked(name: str) -> Review:
    document = loads(demo_bytes(name))
    return review(document.shop, Memory(attachments=document.blobs))


def test_the_binder_has_the_day_the_card_and_what_was_compared() -> None:
    one = checked("garage-mended")
    (page,) = (page for page in pages_of(one) if page in PAGES)
    assert "breathed over 8 h" in page.headline(one.answers) and not page.has_scale
    text = binder_text(one)
    for words in ("What to wear", "Compared: ", "Monitor stood at", "not noted", "What helps the air most"):
        assert words in text
    assert "Rooms and people" in binder_text(checked("spare-room"))
    nothing = review(Shop(), Memory())
    assert not [page for page in pages_of(nothing) if page in PAGES]
    assert PAGES[0].headline(nothing.answers) == "The day."
