"""How a trial is set up: its kind of question, unit, design, and what stands around it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from orthocris.core.errors import InputError
from orthocris.core.ranges import check_length
from orthocris.core.trial.measures import TALLIED_BESIDE, MeasureKey

USUAL_MARGIN, MOST_MARGIN = 0.1, 0.5  # of the fraction removed, given up for a gentler remedy
MOST_CM2 = 900  # a window of 1 cm² is then a thousandth of the leaf, about
MOST_SAMPLES = 200  # leaves counted on one plant


class Kind(StrEnum):
    """What the trial asks."""

    COMPARE = "compare"  # which remedy works best
    LADDER = "ladder"  # the weakest strength that still works
    SQUARE = "square"  # which of two ingredients does it
    PREVENTION = "prevention"  # start clean, measure what arrives
    EGGS = "eggs"  # hatched out of total in clusters


class Unit(StrEnum):
    """The experimental unit."""

    PLANT = "plant"
    LEAF = "leaf"
    SHOOT = "shoot"  # or branch
    HALF = "half"
    POT = "pot"
    CLUSTER = "cluster"
    TRAP = "trap"
    JAR = "jar"  # eggs taken off a plant, a cluster in each


UNIT_WORDS: dict[Unit, tuple[str, str]] = {
    Unit.PLANT: ("plant", "plants"),
    Unit.LEAF: ("leaf", "leaves"),
    Unit.SHOOT: ("shoot", "shoots"),
    Unit.HALF: ("half", "halves"),
    Unit.POT: ("pot", "pots"),
    Unit.CLUSTER: ("egg cluster", "egg clusters"),
    Unit.TRAP: ("trap", "traps"),
    Unit.JAR: ("jar", "jars"),
}
# How what gets a remedy is marked, so that it is found again and given nothing else.
UNIT_MARKS = {
    Unit.LEAF: "Tie a thread to each leaf's stalk, with as many knots as its tag has notches; ink "
    "and paper do not last on a leaf.",
    Unit.SHOOT: "Tie a thread to the foot of each shoot, with as many knots as its tag has "
    "notches.",
    Unit.HALF: "Set each tag at its half, and a stick between the halves.",
    Unit.CLUSTER: "Set a peg with its tag beside each cluster, and tie a thread to the leaf's "
    "stalk.",
    Unit.JAR: "Write its letter on lid and jar.",
}
USUAL_MARK = "Cut the notches into real tags with scissors; they outlast ink."
KNOTTED = (Unit.LEAF, Unit.SHOOT)  # carry a thread and no tag
EGG_UNIT = Unit.CLUSTER  # what a question about eggs counts on


class DesignKind(StrEnum):
    """How remedies are spread over the bench."""

    COMPLETE = "complete"
    RANDOMISED = "randomised"
    INCOMPLETE = "incomplete"
    LATIN = "latin"


class Gradient(StrEnum):
    """Whether light, warmth or draught changes along the bench."""

    NONE = "none"
    ONE = "one"
    TWO = "two"


WHOLE_KINDS = frozenset([Kind.LADDER, Kind.SQUARE])  # these need each of their remedies


@dataclass(frozen=True, slots=True)
class Setup:
    """Everything about a trial beside its name, remedies and days.

    `place_cm` and `row_cm` are distances between neighbours in a row and between rows;
    `block_size` is for incomplete blocks only; `eaten` tells whether something of the plants is
    eaten, which no change of a plan makes otherwise, and `harvest_on` when it is picked next, None
    where that is not known; `picked` is for what is picked all the time, as herbs, salads and pods
    are; `margin` is the fraction removed that is given up for
    a remedy gentler on the leaves. `samples` is how many leaves (or other samples) of each plant
    are counted one by one, 0 where the plant is counted as a whole, `which` in the gardener's own
    words which ones; `beside` is what is tallied with the trial's own measure. `marked` says that
    the same leaves are counted each time, by a thread or a ring on them; `leaf_cm2` is the area of
    a usual leaf, by which a window of 1 cm² is a part of it. `two_waves`: half of the blocks come
    first, and the plants of the others wait for what is then still in question; `two_looks`: the
    last two looks are judged together. `crop` is what the plants are, as the gardener says it;
    `also` a second pest on them that is counted beside (as `other`) and has a verdict of its own,
    empty where there is none.
    """

    kind: Kind = Kind.COMPARE
    unit: Unit = Unit.PLANT
    design: DesignKind = DesignKind.COMPLETE
    block_size: int | None = None
    gradient: Gradient = Gradient.NONE
    place_cm: float = 40.0
    row_cm: float = 60.0
    shields: bool = False
    match_place: bool = True
    stressed: bool = False
    in_bloom: bool = False
    delicate: bool = False
    hot: bool = False
    eaten: bool = False
    harvest_on: date | None = None
    picked: bool = False
    margin: float = USUAL_MARGIN
    samples: int = 0
    which: str = ""
    beside: tuple[str, ...] = ("damage",)
    marked: bool = False
    leaf_cm2: float | None = None
    two_waves: bool = False
    two_looks: bool = False
    crop: str = ""
    also: str = ""

    @property
    def shares_plants(self) -> bool:
        """True when several units may share one plant, so that neighbours can contaminate."""
        return self.unit in (Unit.LEAF, Unit.SHOOT, Unit.HALF, Unit.CLUSTER)

    @property
    def mark(self) -> str:
        """How each unit is marked, as a sentence."""
        return UNIT_MARKS.get(self.unit, USUAL_MARK)


def can_wave(setup: Setup) -> bool:
    """True where half of the plants can come first: complete blocks, and remedies that may go."""
    return setup.design is DesignKind.COMPLETE and setup.kind not in WHOLE_KINDS


def check_setup(setup: Setup, remedies: int) -> None:
    """Check a setup against its rules; `remedies` counts the control in."""
    for field in ("place_cm", "row_cm"):
        if not 1 <= getattr(setup, field) <= 1000:
            raise InputError(
                f"{getattr(setup, field):g} cm between neighbours",
                code="bad_spacing",
                field=f"setup.{field}",
                fix="Measure from stem to stem: 1 to 1000 cm.",
            )
    if not 0 <= setup.margin <= MOST_MARGIN:
        raise InputError(
            f"a margin of {setup.margin:g}",
            code="bad_margin",
            field="setup.margin",
            fix="Give up 0 to 50 points of a hundred for a gentler remedy.",
        )
    _check_counting(setup)
    if (setup.picked or setup.harvest_on is not None) and not setup.eaten:
        raise InputError(
            "a harvest of plants that nobody eats",
            code="bad_harvest",
            field="setup.picked" if setup.picked else "setup.harvest_on",
            fix="Say that something of them is eaten, or leave the day of the harvest out.",
        )
    if setup.two_waves and not can_wave(setup):
        raise InputError(
            "two waves of such a trial",
            code="bad_waves",
            field="setup.two_waves",
            fix="Two waves are for complete blocks, and for questions from which a remedy may go.",
        )
    if setup.design is DesignKind.INCOMPLETE:
        size = setup.block_size
        if size is None or not 2 <= size < remedies:
            raise InputError(
                f"blocks of {size} for {remedies} remedies",
                code="bad_block_size",
                field="setup.block_size",
                fix=f"An incomplete block holds 2 to {remedies - 1} plants; with more, use "
                "complete blocks.",
            )


def _check_counting(setup: Setup) -> None:
    if not 0 <= setup.samples <= MOST_SAMPLES:
        raise InputError(
            f"{setup.samples} leaves of each plant",
            code="bad_samples",
            field="setup.samples",
            fix=f"Count 1 to {MOST_SAMPLES} of each plant, or 0 for the plant as a whole.",
        )
    area = setup.leaf_cm2
    if area is not None and not 1 < area <= MOST_CM2:
        raise InputError(
            f"a leaf of {area:g} cm²",
            code="bad_area",
            field="setup.leaf_cm2",
            fix=f"Give the area of a usual leaf, more than 1 and at most {MOST_CM2} cm², or leave "
            "it empty.",
        )
    check_length(setup.crop, 60, "what the plants are", "setup.crop")
    check_length(setup.also, 60, "the second pest", "setup.also")
    if bool(setup.also) != (MeasureKey.OTHER in setup.beside):
        raise InputError(
            "a second pest is named and not counted, or counted and not named",
            code="bad_also",
            field="setup.also",
            fix="Name the second pest, and count it beside the first; or neither.",
        )
    check_length(setup.which, 300, "which ones are counted", "setup.which")
    unknown = [key for key in setup.beside if key not in TALLIED_BESIDE]
    if unknown or len(set(setup.beside)) < len(setup.beside):
        raise InputError(
            f"{unknown[0] if unknown else 'one thing twice'} beside the trial's own measure",
            code="bad_beside",
            field="setup.beside",
            fix=f"Choose among {', '.join(TALLIED_BESIDE)}, each once.",
        )
