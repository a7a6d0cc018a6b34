"""The trials of Quillon Yard: what each asks, and what its remedies truly do."""

from __future__ import annotations

from dataclasses import dataclass

from orthocris.core.question import Question, RemedyDraft
from orthocris.core.trial import Role
from orthocris.demo.simulate import Effect, Outbreak


@dataclass(frozen=True, slots=True)
class Story:
    """A trial of the demo world.

    `begun` is how many days ago the first spray was (negative: it is still to come);
    `looks_done` and `rounds_done` count from the first; `aside` names a plant set aside and
    why; `truth` gives what each remedy does, by its name.
    """

    question: Question
    outbreak: Outbreak
    truth: dict[str, Effect]
    prefix: str
    rows: int
    per_row: int
    begun: int
    looks_done: int
    rounds_done: int
    seed: int
    aside: tuple[str, str] | None = None


def _control(name: str, recipe: str) -> RemedyDraft:
    return RemedyDraft(name, Role.CONTROL, recipe)


def _remedy(name: str, recipe: str) -> RemedyDraft:
    return RemedyDraft(name, Role.REMEDY, recipe)


STRAWBERRIES = Story(
    question=Question(
        name="Strawberries in the gutters",
        pest="spider_mites",
        measure="live",
        threshold=0.6,
        remedies=(
            _control("Water only", "Plain rain water, 40 ml a plant, undersides too."),
            _remedy("Mild soap", "10 ml liquid potassium soap in 1 litre of rain water."),
            _remedy("Sunflower oil", "10 ml sunflower oil and 2 ml soap in 1 litre; shake often."),
            _remedy("Cold-pressed neem", "5 ml neem oil and 2 ml soap in 1 litre, lukewarm."),
        ),
        look_days=(3, 7, 12),
        round_days=(0, 5),
    ),
    outbreak=Outbreak(start=34, gradient=0.9, spread=0.35, growth=0.05, ceiling=400),
    truth={
        "Water only": Effect(0.9),
        "Mild soap": Effect(0.32),
        "Sunflower oil": Effect(0.2, 0.3),
        "Cold-pressed neem": Effect(0.45),
    },
    prefix="S",
    rows=3,
    per_row=9,
    begun=5,
    looks_done=1,
    rounds_done=1,
    seed=5121,
    aside=("S27", "Planted last week, half the size of the others."),
)

LUPINS = Story(
    question=Question(
        name="Lupins along the rail",
        pest="aphids",
        measure="live",
        threshold=0.6,
        remedies=(
            _control("Left alone", "Not sprayed, only looked at and handled like the others."),
            _remedy("Water jet", "Three seconds of hose from 30 cm, from below."),
            _remedy(
                "Mild soap", "15 ml liquid potassium soap in 1 litre of rain water, 50 ml a plant."
            ),
            _remedy(
                "Soap with alcohol",
                "10 ml soap and 150 ml of 70% alcohol in 1 litre, 50 ml a plant.",
            ),
        ),
        look_days=(2, 5, 9),
        round_days=(0, 5),
    ),
    outbreak=Outbreak(start=85, gradient=0.6, spread=0.4, growth=0.04, ceiling=900),
    truth={
        "Left alone": Effect(1.0),
        "Water jet": Effect(0.55),
        "Mild soap": Effect(0.17, 0.05),
        "Soap with alcohol": Effect(0.12, 2.3),
    },
    prefix="L",
    rows=2,
    per_row=13,
    begun=33,
    looks_done=3,
    rounds_done=2,
    seed=7040,
)

PHLOX = Story(
    question=Question(
        name="Phlox in the long border",
        pest="powdery_mildew",
        measure="cover",
        threshold=0.5,
        remedies=(
            _control("Water only", "Plain rain water to a light mist."),
            _remedy("Baking soda", "5 g baking soda, 5 ml oil and 1 ml soap in 1 litre."),
            _remedy("Milk", "200 ml whole milk topped up to 1 litre with rain water."),
        ),
        look_days=(7, 14, 21),
        round_days=(0, 7, 14),
    ),
    outbreak=Outbreak(start=12, gradient=0.5, spread=0.5, growth=0.035, ceiling=100, jitter=0.4),
    truth={
        "Water only": Effect(0.97),
        "Baking soda": Effect(0.72, 0.3),
        "Milk": Effect(0.88),
    },
    prefix="P",
    rows=1,
    per_row=12,
    begun=61,
    looks_done=3,
    rounds_done=3,
    seed=3307,
)

FUCHSIAS = Story(
    question=Question(
        name="Fuchsias on the stairs",
        pest="whiteflies",
        measure="live",
        threshold=0.7,
        remedies=(
            _control("Water only", "Plain rain water, undersides too."),
            _remedy("Soap, weak", "5 ml liquid potassium soap in 1 litre of rain water."),
            _remedy("Soap, strong", "20 ml liquid potassium soap in 1 litre of rain water."),
        ),
        look_days=(4, 8, 14),
        round_days=(0, 7),
    ),
    outbreak=Outbreak(start=22, gradient=0.7, spread=0.4, growth=0.05, ceiling=300),
    truth={"Water only": Effect(0.95), "Soap, weak": Effect(0.5), "Soap, strong": Effect(0.25)},
    prefix="F",
    rows=4,
    per_row=5,
    begun=-3,
    looks_done=-1,
    rounds_done=0,
    seed=9218,
    aside=("F20", "In full bloom, and bees visit it."),
)

STORIES = (PHLOX, LUPINS, STRAWBERRIES, FUCHSIAS)
