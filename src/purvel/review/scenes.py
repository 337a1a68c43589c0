"""The shop as it stands in a scene, with its ducts as they hold there."""

from purvel.airflow.coupling import Coupled, coupled
from purvel.review.answers import Answers
from purvel.review.memory import Memory
from purvel.shop import Shop
from purvel.shop.edits import Edit
from purvel.shop.scenes import carried_back, in_scene, scene_of

AS_DRAWN = "as drawn"


def standing(shop: Shop, scene: str | None) -> Coupled:
    """The shop in a scene, and what its ducts let go of; as drawn where there is no such scene."""
    if scene_of(shop, scene) is None:
        return Coupled(shop, (), (), ())
    return coupled(shop, in_scene(shop, scene))


def answers_for(shop: Shop, scene: str | None, memory: Memory) -> Answers:
    """The answers for a document's shop as it stands in a scene."""
    return Answers(memory.answer(standing, shop, scene).shop, memory, shop, scene)


def scene_name(shop: Shop, scene: str | None) -> str:
    """What a scene is called."""
    found = scene_of(shop, scene)
    return AS_DRAWN if found is None else found.name or found.id


def scene_called(shop: Shop, name: str) -> str | None:
    """The id of the scene that goes by a name or an id; None for the shop as drawn.

    Raises KeyError where there is none.
    """
    if name == AS_DRAWN:
        return None
    for scene in shop.scenes:
        if name in (scene.id, scene.name):
            return scene.id
    raise KeyError(name)


def tried(answers: Answers, edit: Edit) -> Answers:
    """The answers after an edit that is only tried, in the scene that the answers are of."""
    base = carried_back(answers.base, answers.scene, answers.shop, edit(answers.shop))
    return answers_for(base, answers.scene, answers.memory)
