"""The trials of Quillon Yard: what each asks, and what its remedies truly do."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date
from fractions import Fraction

from orthocris.core.pantry.costs import Price
from orthocris.core.trial.care import Care
from orthocris.core.trial.plan import Amount, Role, Traits
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.setup import Gradient, Kind, Setup
from orthocris.core.trial.stages import RoundRhythm
from orthocris.core.weather.yard import WeatherSource, Yard
from orthocris.demo.simulate import Effect, Outbreak


@dataclass(frozen=True, slots=True)
class Story:
    """A trial of the demo world.

    `begun` is how many days ago the first spray was (negative: it is still to come);
    `looks_done` and `rounds_done` count from the first; `aside` names a plant set aside and
    why; `truth` gives what each remedy does, by its name. `read`: its verdict is on record.
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
    care: Care = Care()
    read: bool = False


def _control(name: str, recipe: str, *, wets: bool = True) -> RemedyDraft:
    key = "water_only" if wets else "untreated"
    traits = Traits(key, "spray" if wets else "none", (), 20.0 if wets else 0.0, 1, wets)
    return RemedyDraft(name, Role.CONTROL, recipe, traits=traits)


def _remedy(
    key: str, name: str, recipe: str, *amounts: Amount, first_look: int = 2, way: str = "spray"
) -> RemedyDraft:
    drift = 60.0 if way == "jet" else 30.0
    return RemedyDraft(
        name, Role.REMEDY, recipe, traits=Traits(key, way, amounts, drift, first_look, True)
    )


def _soap(amount: float) -> Amount:
    return Amount("soap", amount, "ml/L")


NORTHERN_SUMMER = range(4, 10)  # months of which the northern half of the earth has more


def yard_on(day: date) -> Yard:
    """Return the invented place, in the half of the earth that has the warmer half of its year."""
    return replace(YARD, latitude=LATITUDE if day.month in NORTHERN_SUMMER else -LATITUDE)


LATITUDE = 41.0
# A mild place, so that the demo has open hours on any day of the year.
YARD = Yard(
    name="Quillon Yard",
    latitude=LATITUDE,
    longitude=0.0,
    weather_source=WeatherSource.SIMULATED,
    seed=4711,
    mild=16.5,
    swing=4.0,
    hardness=240.0,
    tools=("dropper", "syringe_1", "syringe_10", "tsp", "tbsp", "jug", "scale"),
    bottles=(500.0, 750.0, 1000.0, 2000.0, 5000.0),
)

PRICES = (
    Price("soap", Fraction(1000), Fraction("7.90")),
    Price("oil", Fraction(1000), Fraction("3.20")),
    Price("neem oil", Fraction(250), Fraction("14.50")),
    Price("alcohol", Fraction(1000), Fraction("9.80")),
    Price("baking soda", Fraction(500), Fraction("1.90")),
    Price("milk", Fraction(1000), Fraction("1.30")),
)

# What the people of the yard say when they go on though the program holds a round back.
REASONS = {
    "patch_tests": "Only a trace on three leaves; we want to see it on whole plants.",
    "window_closed": "It was the only hour we had that day.",
    "expired": "Mixed the evening before.",
    "before_missing": "Not counted in time.",
}

STRAWBERRIES = Story(
    question=Question(
        name="Strawberries in the gutters",
        pest="spider_mites",
        measure="live",
        threshold=0.6,
        remedies=(
            _control("Water only", "Plain rain water, 40 ml a plant, undersides too."),
            _remedy(
                "mild_soap",
                "Mild soap",
                "10 ml liquid potassium soap in 1 litre of rain water.",
                _soap(10),
            ),
            _remedy(
                "oil_soap",
                "Sunflower oil",
                "10 ml sunflower oil and 2 ml soap in 1 litre; shake often.",
                Amount("oil", 10, "ml/L"),
                _soap(2),
                first_look=3,
            ),
            _remedy(
                "neem",
                "Cold-pressed neem",
                "5 ml neem oil and 2 ml soap in 1 litre, lukewarm.",
                Amount("neem", 5, "ml/L"),
                _soap(2),
                first_look=7,
            ),
        ),
        look_days=(3, 7, 12),
        round_days=(0, 5),
        setup=Setup(
            crop="strawberries",
            place_cm=25,
            row_cm=80,
            eaten=True,
            shields=True,
            samples=3,
            which="undersides of one low, one middle and one high leaf",
            beside=("young", "eggs", "damage"),
        ),
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
    care=Care(leaf_kinds=("strawberry leaves",), round_rhythm=RoundRhythm.EGG_CYCLE),
    aside=("S27", "Planted last week, half the size of the others."),
)

LUPINS = Story(
    question=Question(
        name="Lupins along the rail",
        pest="aphids",
        measure="live",
        threshold=0.6,
        remedies=(
            _control("Left alone", "Not sprayed, only looked at.", wets=False),
            _remedy(
                "water_jet",
                "Water jet",
                "Three seconds of hose from 30 cm, from below.",
                first_look=1,
                way="jet",
            ),
            _remedy(
                "mild_soap",
                "Mild soap",
                "15 ml liquid potassium soap in 1 litre of rain water, 50 ml a plant.",
                _soap(15),
            ),
            _remedy(
                "alcohol_spray",
                "Soap with alcohol",
                "15 ml soap and 150 ml of 70% alcohol in 1 litre, 50 ml a plant.",
                Amount("alcohol", 150, "ml/L"),
                _soap(15),
            ),
        ),
        look_days=(2, 5, 9),
        round_days=(0, 5),
        setup=Setup(crop="lupins", place_cm=70, row_cm=70),
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
    care=Care(leaf_kinds=("lupin leaves",), ml_per_plant=50.0),
)

PHLOX = Story(
    question=Question(
        name="Phlox in the long border",
        pest="powdery_mildew",
        measure="cover",
        threshold=0.5,
        remedies=(
            _control("Water only", "Plain rain water to a light mist."),
            _remedy(
                "baking_soda",
                "Baking soda",
                "5 g baking soda, 5 ml oil and 1 ml soap in 1 litre.",
                Amount("soda", 5, "g/L"),
                Amount("oil", 5, "ml/L"),
                _soap(1),
                first_look=7,
            ),
            _remedy(
                "milk",
                "Milk",
                "200 ml whole milk topped up to 1 litre with rain water.",
                Amount("milk", 200, "ml/L"),
                first_look=7,
            ),
        ),
        look_days=(7, 14, 21),
        round_days=(0, 7, 14),
        setup=Setup(crop="border phlox"),
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
    care=Care(leaf_kinds=("phlox leaves",)),
)

FUCHSIAS = Story(
    question=Question(
        name="Fuchsias on the stairs",
        pest="whiteflies",
        measure="live",
        threshold=0.7,
        remedies=(
            _control("Water only", "Plain rain water, undersides too."),
            _remedy(
                "mild_soap",
                "Soap 5 ml/L",
                "5 ml liquid potassium soap in 1 litre of rain water.",
                _soap(5),
            ),
            _remedy(
                "mild_soap",
                "Soap 20 ml/L",
                "20 ml liquid potassium soap in 1 litre of rain water.",
                _soap(20),
            ),
        ),
        look_days=(4, 8, 14),
        round_days=(0, 7),
        setup=Setup(
            crop="fuchsias", kind=Kind.LADDER, place_cm=25, row_cm=70, gradient=Gradient.ONE
        ),
    ),
    outbreak=Outbreak(start=22, gradient=0.7, spread=0.4, growth=0.05, ceiling=300),
    truth={"Water only": Effect(0.95), "Soap 5 ml/L": Effect(0.5), "Soap 20 ml/L": Effect(0.25)},
    prefix="F",
    rows=4,
    per_row=5,
    begun=-3,
    looks_done=-1,
    rounds_done=0,
    seed=9218,
    care=Care(leaf_kinds=("plain green leaves", "young reddish leaves")),
    aside=("F20", "In full bloom, and bees visit it."),
)

# The same rail in two other summers: what is known by now is of all three.
LUPINS_BEFORE = replace(
    LUPINS,
    question=replace(LUPINS.question, name="Lupins, last year"),
    truth={**LUPINS.truth, "Mild soap": Effect(0.3, 0.05), "Soap with alcohol": Effect(0.15, 1.2)},
    begun=LUPINS.begun + 364,
    seed=7077,
    read=True,
)

LUPINS_FIRST = replace(
    LUPINS_BEFORE,
    question=replace(LUPINS.question, name="Lupins, two years ago"),
    truth={**LUPINS.truth, "Mild soap": Effect(0.22, 0.05), "Water jet": Effect(0.6)},
    begun=LUPINS.begun + 728,
    seed=7078,
)

STORIES = (PHLOX, LUPINS, STRAWBERRIES, FUCHSIAS, LUPINS_BEFORE, LUPINS_FIRST)
