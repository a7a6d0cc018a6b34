"""Recipes that deny, bound or say a thing twice, with hand-worked answers."""

from __future__ import annotations

from orthocris.core.pantry.units import Region

METRIC = Region.METRIC

# What is denied is no part; what is denied twice, or bounded, is one.
DENIED: tuple[tuple[str, Region, dict[str, float]], ...] = (
    *((f"3 g sulphur in 1 litre{said}", METRIC, {"sulphur": 3.0}) for said in (
        ", never within four weeks of oil", "; not within a month of any oil",
        "; do not use within two weeks of neem", ", don't use within 2 weeks of an oil spray",
        ", keep four weeks away from oil", ", wait four weeks after oil", ", not after oil",
        ", not before or after oil", ", never mix with oil", ". Do not mix with bleach or vinegar.",
        ", never use it with oil", ", neither oil nor soap", ", not less than 4 weeks after oil",
        ", at least four weeks after oil", ", only four weeks after the last oil",
        ", not with 5 ml oil", " without the 5 ml oil", " and not a drop of oil",
        ", no need for soap", ", no vinegar, bleach or soda", ", never in a closed can with oil",
        " rather than 5 ml oil", " instead of 10 ml mineral oil", " with neither scent nor dye",
    )),
    ("scented: no. 5 ml soap, 2 ml neem per litre", METRIC, {"soap": 5, "neem": 2}),
    ("never 10 ml oil, 5 ml oil per litre", METRIC, {"oil": 5}),
    ("not soap but 5 ml detergent per litre", METRIC, {"detergent": 5}),
    ("no oil? 5 ml soap per litre", METRIC, {"soap": 5}),
    ("not only 5 ml soap but also 5 ml oil per litre", METRIC, {"soap": 5, "oil": 5}),
    ("10 ml neem per litre, never without 2 ml soap", METRIC, {"neem": 10, "soap": 2}),
    ("10 ml neem per litre, don't forget 5 ml soap", METRIC, {"neem": 10, "soap": 5}),
    ("10 ml neem per litre, never more than 5 ml soap", METRIC, {"neem": 10, "soap": 5}),
    ("10 ml soap per litre, no more oil than 5 ml", METRIC, {"soap": 10, "oil": 5}),
    ("less than 5 ml soap per litre", METRIC, {"soap": 5}),
    ("soap (not detergent) 10 ml per litre", METRIC, {"soap": 10}),
    ("soap, not detergent, 10 ml per litre", METRIC, {"soap": 10}),
    ("soap without perfume 10 ml, oil 5 ml per litre", METRIC, {"soap": 10, "oil": 5}),
    ("10 ml oil-free soap per litre", METRIC, {"oil-free soap": 10}),
    ("10 ml soap, do not boil, 5 ml oil, per litre", METRIC, {"soap": 10, "oil": 5}),
    ("5 ml soap, no oil, 10 ml neem per litre", METRIC, {"soap": 5, "neem": 10}),
)  # fmt: skip

# Pieces of a weight, water told first, and a strength told after a comma.
TOLD: tuple[tuple[str, Region, dict[str, float]], ...] = (
    ("two 300 mg aspirins dissolved in 4 l", METRIC, {"aspirin": 0.15}),
    ("one 500 mg aspirin in 5 litres", METRIC, {"aspirin": 0.1}),
    ("a 325mg tablet of aspirin to 5 l", METRIC, {"aspirin": 0.065}),
    ("2 325 mg tablets of aspirin in 5 l", METRIC, {"aspirin": 0.13}),
    ("3 parts water to 1 milk", METRIC, {"milk": 250}),
    ("nine parts of water to one of milk", METRIC, {"milk": 100}),
    ("ten times as much water as milk", METRIC, {"milk": 1000 / 11}),
    ("milk with nine times its volume of water", METRIC, {"milk": 100}),
    ("Neem oil, 1%; liquid soap, 0.25 %", METRIC, {"neem": 10, "soap": 2.5}),
    ("one and a half teaspoons of neem in a litre and a half of water", METRIC, {"neem": 5}),
)  # fmt: skip

# A strength beside an amount: of the mix, or of the bottle that is poured from.
STRENGTHS: tuple[tuple[str, Region, dict[str, float]], ...] = (
    ("soap 2%, 20 ml per litre", METRIC, {"soap": 20}),
    ("oil 1% (10 ml/l)", METRIC, {"oil": 10}),
    ("20% soap solution, 100 ml per litre", METRIC, {"20% soap": 100}),
    ("100 ml per litre of 20% soap", METRIC, {"20% soap": 100}),
    ("1 litre of 2% soap in 4 litres of water", METRIC, {"2% soap": 200}),
    ("2 litres of 1% oil in a 5 litre can", METRIC, {"oil": 10}),
    ("1 c. milk : 9 c. water", METRIC, {"milk": 100}),
    ("5 ml oil w/o perfume w/2 ml soap per litre", METRIC, {"oil": 5, "soap": 2}),
    ("potassium bicarbonate 1 g/l w/ 1 ml soap", METRIC, {"potassium": 1, "soap": 1}),
    ("rhubarb leaves 500 g in 3 l, boil, strain, use neat", METRIC,
     {"rhubarb leaves brew": 1000, "rhubarb leaves": 500 / 3}),
)  # fmt: skip
