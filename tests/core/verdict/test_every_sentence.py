"""Random tables of every measure: no sentence against its numbers, none against its grammar."""

from __future__ import annotations

import random
import re
import unittest
from collections.abc import Iterator
from unittest import mock

from orthocris.core import Observation, Verdict, judge
from orthocris.core.errors import InputError
from orthocris.core.trial.measures import JUDGED_IN_ORDER
from orthocris.core.verdict import evidence
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.result import RemedyResult

TABLES = 500  # of each of the four parts below
NAMES = ("Water", "Soap", "Oil", "Neem", "Jet")
SHARES, BY_EYE = ("dead", "hatched"), ("cover", "rating")
# Numbers and plurals that do not agree, a number that is none, an end said twice.
UNGRAMMATICAL = {
    "one of many": r"\b1 (plants|blocks|leaves|days|steps|remedies|lines|rounds|more plants)\b",
    "many of one": r"(?<![\d.])(?!1\b)\d+ (plant|block|day|step)\b(?! of)",
    "all of one": r"\ball of its 1\b",
    "several does": r"(?:^|[.:;] )\w+ and \w+ (does|was|is|has|removes|works|harms|looks)\b",
    "minus and fewer": r"[−-]\d[\d.]*% (fewer|less|more)",
    "the same end twice": r"between (\S+%) and \1",
    "nothing everywhere": r"[Nn]othing was left everywhere|no \w+ (was|were) left everywhere",
    "no number": r"\b(nan|inf)\b|\bNone\b(?! of)",
    "two marks": r"\.\.|,,| ,| \.|\s\s|;;|\( | \)",
    "all or nothing": r"\b(100|0)% (fewer|less|of removing)|\b0% more",
}


# What is not there where the control is a remedy itself.
UNTREATED = r"untreated|leaving the plants|than nothing|the control\b(?! included)|nothing works"


def draw(rng: random.Random) -> tuple[list[Observation], str, float, Terms]:
    """A trial of any measure, often an odd one: few plants, all gone, plants lost, burnt leaves."""
    measure = rng.choice(JUDGED_IN_ORDER)
    remedies = NAMES[: rng.choice((2, 2, 3, 3, 4, 5))]
    level = rng.choice((2, 8, 30, 150))
    day = rng.choice((0.125, 1.0, 2.0, 3.0, 7.0, 14.0))
    left = {name: rng.choice((0, 0.01, 0.1, 0.3, 0.5, 0.8, 1, 1.1, 2)) for name in remedies}
    left["Water"] = rng.choice((1, 1, 1, 1, 0))
    lossy, burnt = rng.random() < 0.25, rng.random() < 0.3
    killer, burner = (rng.choice(remedies[1:]) for _ in range(2))
    seen: list[Observation] = []
    for b in range(rng.choice((1, 2, 3, 4, 5, 6, 8))):
        base = level * rng.lognormvariate(0, 0.4)
        for name in remedies:
            plant = Observation(f"{name}{b}", f"b{b}", name, 0.0, measure, 0.0)
            own = base * rng.lognormvariate(0, rng.choice((0.1, 0.5, 1.2)))
            if measure not in SHARES and rng.random() < 0.9:
                seen.append(count(plant, 0.0, own, rng))
            if lossy and name == killer and rng.random() < rng.choice((0.4, 0.9, 1.0)):
                seen.append(Observation(plant.plant, plant.block, name, day, "lost", 1.0))
                continue
            if rng.random() < 0.97:
                seen.append(count(plant, day, own * left[name], rng))
            if burnt:
                worse = 3.0 if name == burner else 0.0
                seen.append(Observation(plant.plant, plant.block, name, day, "damage", worse))
    planned = rng.choice(((), (), (day,), (day, day + 7)))
    usual = rng.choice(("", "", "Water"))  # what is done anyway, and nothing is left untreated
    return seen, measure, rng.choice((0.3, 0.6, 0.9)), Terms(planned=planned, usual=usual)


def count(plant: Observation, day: float, amount: float, rng: random.Random) -> Observation:
    """What is found on a plant that has so much of it."""
    of = 15.0 if plant.measure in SHARES else None
    top = {"cover": 100.0, "rating": 5.0}.get(plant.measure, of or 9999.0)
    if plant.measure in (*SHARES, "rating"):
        amount = top * min(amount / 60, 1.0)
    value = float(round(min(max(amount + rng.gauss(0, amount**0.5 / 2), 0), top)))
    if plant.measure == "dead":
        value = top - value
    return Observation(plant.plant, plant.block, plant.remedy, day, plant.measure, value, of)


class Reading(unittest.TestCase):
    """Judge random tables and read all that is said."""

    part = 0

    def test_no_sentence_is_against_its_numbers_or_its_grammar(self) -> None:
        rng = random.Random(self.part)
        with mock.patch.object(evidence, "DRAWS", 1024):
            for _ in range(TABLES):
                seen, measure, threshold, terms = draw(rng)
                try:
                    verdict = judge(
                        seen, control="Water", measure=measure, threshold=threshold, terms=terms
                    )
                except InputError:  # nothing was counted after the spray
                    continue
                warned = [warning.text for warning in verdict.warnings]
                for text in (verdict.sentence, verdict.advice, *verdict.reasons, *warned):
                    for name, pattern in UNGRAMMATICAL.items():
                        self.assertIsNone(re.search(pattern, text), f"{name}: {text}")
                against = [*said_of_all(verdict, seen), *said_of_each(verdict)]
                if terms.usual and (
                    beside := re.search(UNTREATED, words := f"{verdict.sentence} {verdict.advice}")
                ):
                    against.append(f"{beside[0]} is told where none is: {words}")
                self.assertEqual([], against, f"{verdict.sentence} {verdict.advice}")


class Second(Reading):
    part = 1


class Third(Reading):
    part = 2


class Fourth(Reading):
    part = 3


def praised(verdict: Verdict) -> RemedyResult | None:
    """The remedy that the sentence speaks well of."""
    found = re.search(
        r"(\w+) (works|looks best|seems to work|does better|is the one to take)\b", verdict.sentence
    )
    return next((r for r in verdict.remedies if found and r.name == found[1]), None)


def said_of_all(verdict: Verdict, seen: list[Observation]) -> Iterator[str]:
    """What the words say of the trial that its numbers do not."""
    remedies = [r for r in verdict.remedies if r.role == "remedy"]
    sound = [r for r in remedies if not r.vetoed]
    text, reasons, who = verdict.sentence, " ".join(verdict.reasons), praised(verdict)
    if who and who.vetoed:
        yield "a remedy that harms is praised"
    falls_short = who is not None and (who.efficacy or 0) < verdict.threshold
    if who and ("perhaps by less" if falls_short else "probably below what you asked") in text:
        yield "it is called too little, or enough, against its own estimate"
    if "works best" in text and sum(r.efficacy is not None for r in sound) < 2:
        yield "best of one"
    settled = verdict.recommended or "works best" in text or "Treat the rest" in verdict.advice
    if settled and max(o.day for o in seen if o.measure == verdict.measure) < 1:
        yield "settled within hours"
    if verdict.recommended and verdict.recommended not in text:
        yield "the recommended remedy is not named"
    if remedies and not sound and not ("harm" in text and "harm" in verdict.reasons[-1]):
        yield "all harm, and it is not said"
    if not sound and "upper limit" in reasons:
        yield "limits told of remedies that are out"
    part = 0.5 * verdict.threshold
    if "Do not spend more" in verdict.advice and any((r.efficacy or 0) > part for r in sound):
        yield "do not spend more on what removes a good part"
    chances = next((x for x in verdict.reasons if x.startswith("Chance of removing the most")), "")
    for name, said in re.findall(r"(\w+) (?:over |under )?(\d+(?:\.\d)?)%", chances):
        own = [r.prob_best or 0.0 for r in remedies if r.name == name]
        if own and abs(float(said) / 100 - own[0]) > 0.011:
            yield f"two chances of best of {name}"


def said_of_each(verdict: Verdict) -> Iterator[str]:
    """What the words say, or leave out, of single remedies against their numbers."""
    text, who = verdict.sentence, praised(verdict)
    for r in verdict.remedies:
        if r.died and r.died == r.plants + r.lost and r.name not in text:
            yield "a remedy that lost all its plants is not named"
        out = r.vetoed and not r.kills and r.efficacy is not None
        if out and who and (r.efficacy or 0) > (who.efficacy or 0) and r.name not in text:
            yield "the burnt remedy that removed most is not named"
        if r.worse_than_control and "may be worse" not in text:
            yield "worse, without a may be"
        low, high = r.efficacy_low, r.efficacy_high
        if low is not None and high is not None and not low <= (r.efficacy or low) <= high:
            yield "an estimate outside its limits"
    if "hardly anything" in text and who and (who.efficacy_low or 0) < -0.1:
        yield "hardly anything for much more"
    by_eye = verdict.measure in BY_EYE
    if by_eye and any("very many pests" in warning.text for warning in verdict.warnings):
        yield "pests told of what is read by eye"


if __name__ == "__main__":
    unittest.main()
