"""Flow: jobs as steps at stations, the ways on foot between them, and whether the stock gets there."""

from collections.abc import Callable
from functools import partial

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.flow import drawing
from purvel.app.stages.flow.legs_chart import LegsChart
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.flow import clear
from purvel.app.widgets.scrolled import scrolled
from purvel.app.workspace import Workspace
from purvel.catalogue import ready_jobs
from purvel.review.flow.answers import FlowAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop.edits import fresh_id, put
from purvel.shop.jobs import Job, JobStep
from purvel.space.legs import JobFlow


class FlowStage(Stage):
    """How far do I walk, and does the board get there?"""

    entry = entry_of("flow")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.chart = LegsChart(theme)
        self.instrument = scrolled(self.chart)
        self.job: ChoiceField[str] | None = None
        self._named: tuple[tuple[str, str], ...] = ()
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        ready = [(one.name, partial(self.add_job, key)) for key, one in ready_jobs().items()]
        self.row.addWidget(self.menu_button("Add job", [*ready, ("An empty job", self.add_empty)]))
        self._named = tuple((job.id, job.name or job.id) for job in self.workspace.shop.jobs)
        self.job = None
        if self._named:
            self.job = ChoiceField("Job that is looked at", self._named, widest=28)
            self.job.entered.connect(self.workspace.pick)
            self.row.addWidget(self.job)

    def refresh(self) -> None:
        shop = self.workspace.shop
        if tuple((job.id, job.name or job.id) for job in shop.jobs) != self._named:
            self.rebuild()
        flow = self.flow()
        if self.job is not None:
            self.job.show_value(None if flow is None else flow.job.id)
        self.chart.show_job(self.shop, flow, self._searched(), self._nothing())

    def _nothing(self) -> str:
        return "Add a job to see how far it has you walk, and whether its stock gets to every station."

    def flow(self) -> JobFlow | None:
        """The job that is looked at: the picked one, else the first."""
        jobs = self.answers().of(FlowAnswers).jobs
        return jobs.get(self.workspace.picked or "") or next(iter(jobs.values()), None)

    def _searched(self) -> FlowAnswers | None:
        """What the long searches found, where that is of what is shown."""
        found = self.searched()
        return None if found is None else found.of(FlowAnswers)

    def add_job(self, key: str) -> None:
        """One of the ready jobs, with its stations found in the shop."""
        shop = self.workspace.shop
        job = ready_jobs()[key].job(fresh_id(shop, "job"), shop.units)
        self._add(job)

    def add_empty(self) -> None:
        """A job of one's own, begun with one step."""
        job = Job(
            id=fresh_id(self.workspace.shop, "job"),
            name="New job",
            stock=self.workspace.shop.stock,
            steps=(JobStep(operation="crosscut"),),
        )
        self._add(job)

    def _add(self, job: Job) -> None:
        self.workspace.apply(lambda shop: put(shop, job), f"Add {job.name.lower()}")
        self.workspace.pick(job.id)

    def pickable(self) -> list[str]:
        return [*(job.id for job in self.workspace.shop.jobs), *super().pickable()]

    def draw(self, sheet: Sheet) -> None:
        shop, answers, flow = self.workspace.shown, self.answers(), self.flow()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        draw_things.things(sheet, shop, self.workspace.picked, self.trouble(), quiet=True)
        if flow is None:
            return
        searched = self._searched()
        if searched is not None:
            hauls = searched.hauls(flow.job.id)
            shown = next((one for one in hauls if one.stuck), hauls[0] if hauls else None)
            if shown is not None:
                drawing.carried(sheet, searched, flow, shown)
        longest = max(flow.legs, key=lambda leg: leg.distance, default=None)
        drawing.legs(sheet, flow, longest=longest)

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        if not shop.room.walls:
            return "Jobs need a room: press 1 and enter its walls."
        if not shop.things:
            return "Jobs need stations: press 2 and place your machines."
        return "" if shop.jobs else "No job yet: press “Add job” and choose one that you do often."

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            (f"Add job: {one.name.lower()}", partial(self.add_job, key)) for key, one in ready_jobs().items()
        ]
