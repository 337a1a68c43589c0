"""The window's thread and the review's ask the same memory at once."""

from concurrent.futures import ThreadPoolExecutor

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Memory
from purvel.review.power.answers import PowerAnswers
from purvel.review.reviewing import first_review
from purvel.shop import Shop
from purvel.shop.edits import move_thing


def test_two_threads_that_share_a_memory_find_what_one_finds() -> None:
    """Each looks at the same places of the drill press; the room, its floor and all else are shared."""
    shop = loads(demo_bytes("garage")).shop
    press = shop.thing("drill-press")
    assert press is not None
    places = [move_thing(shop, "drill-press", press.x + 0.01 * k, press.y) for k in range(12)]
    memory = Memory()

    def look(one: Shop) -> list[object]:
        answers = Answers(one, memory)
        seen = first_review(one, memory).findings
        return [seen, answers.of(PowerAnswers).light_map is not None]

    with ThreadPoolExecutor(2) as hands:
        both = list(hands.map(look, [one for one in places for _ in range(2)]))
    alone = [first_review(one, Memory()).findings for one in places]
    assert [seen for seen, _ in both[::2]] == alone == [seen for seen, _ in both[1::2]]
    assert all(lit for _, lit in both)
