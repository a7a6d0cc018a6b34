"""Recipes as they stand on cards, in lists and in letters, with hand-worked answers."""

from __future__ import annotations

from orthocris.core.pantry.units import Region

METRIC, US = Region.METRIC, Region.US
GALLON = 3.785411784  # US, litres
US_TBSP = 14.78676478125  # ml

Case = tuple[str, Region, dict[str, float]]

# An amount told twice, in brackets: the more exact of two that agree.
TWICE: tuple[Case, ...] = (
    ("2 tsp (10 g) of baking soda in 1 litre", METRIC, {"baking soda": 10}),
    ("2 tsp (5 g) of baking soda in 1 litre", METRIC, {"baking soda": 10}),  # 5 g each
    ("two tablespoons of soap flakes (20 g) in 4 l", METRIC, {"soap flakes": 5}),
    ("5 cloves garlic (25 g) in half a litre of water, blend, strain, make up to 5 litres", METRIC,
     {"garlic brew": 100, "garlic": 5}),
    ("a 16 oz (500 ml) bottle with 5 ml soap", US, {"soap": 10}),
    ("1 tbsp (or 15 ml) soap in 1 litre", METRIC, {"soap": 15}),
    ("2 squirts (5 ml) soap in 1 litre", METRIC, {"soap": 5}),
    ("soap (1 tablespoon (15 ml)) in 1 litre", METRIC, {"soap": 15}),
    ("10 ml soap (in 5 l of water)", METRIC, {"soap": 2}),
    ("milk (1 part) and water (9 parts)", METRIC, {"milk": 100}),
    ("15 ml/1 tbsp soap in a litre", METRIC, {"soap": 15}),
    ("3 tsp = 1 tbsp soap in a litre", METRIC, {"soap": 15}),
    ("1:49 (2%) soap", METRIC, {"soap": 20}),
    ("0.5% oil, i.e. 5 ml per litre", METRIC, {"oil": 5}),
    ("milk (1:9)", METRIC, {"milk": 100}),
    ("10 ml neem oil (cold pressed, 100%) per litre", METRIC, {"neem oil": 10}),
)  # fmt: skip

# Numbers: mixed ones, a half after the unit, signs without blanks.
SPELLED: tuple[Case, ...] = (
    ("1-1/2 tsp soap in 750 ml", METRIC, {"soap": 10}),
    ("2-1/2 tbsp oil in 2-1/2 gallons", US, {"oil": US_TBSP / GALLON}),
    ("1/2-1 tsp soap in 750 ml", METRIC, {"soap": 5}),
    ("a teaspoon and a half of neem in a litre", METRIC, {"neem": 7.5}),
    ("10 ml soap for a litre and a half of water", METRIC, {"soap": 10 / 1.5}),
    ("a tablespoon and a half a gallon of soap", US, {"soap": 1.5 * US_TBSP / GALLON}),
    ("10ml soap,5ml oil,1l water", METRIC, {"soap": 10, "oil": 5}),
    ("500 ml of water\n.5 tsp of soap", METRIC, {"soap": 5}),
    ("a scant 10 ml of soap in 1 l", METRIC, {"soap": 10}),
    ("whey (1:100) and half a teaspoon of milk per litre", METRIC,
     {"whey": 1000 / 101, "milk": 2.5}),
    ("5 ml milk per 5 litres + 0.2 per cent of soap", METRIC, {"milk": 1, "soap": 2}),
    ("neem oil at one and a half percent", METRIC, {"neem oil": 15}),
    ("5‰ soap", METRIC, {"soap": 5}),
    ("5000 ppm soap", METRIC, {"soap": 5}),
    ("a 5 ml teaspoon of neem per litre", METRIC, {"neem": 5}),
    ("3 uncoated 325 mg aspirins in 5 l", METRIC, {"aspirin": 0.195}),
    ("surgical spirit 10 ml to 1,000 ml of water", METRIC, {"surgical spirit": 10}),
)  # fmt: skip

# Lists, titles, days, and which volume belongs to what.
LISTED: tuple[Case, ...] = (
    ("1. 10 ml soap 2. 5 ml oil 3. 1 l water", METRIC, {"soap": 10, "oil": 5}),
    ("oil 80 ml, soap 16 ml -> 8 l", METRIC, {"oil": 10, "soap": 2}),
    ("baking soda - 2,5 g. neem oil - 5 ml, a litre water", METRIC,
     {"baking soda": 2.5, "neem": 5}),
    ("1:200 neem oil, soap, 5 ml a litre", METRIC, {"neem oil": 1000 / 201, "soap": 5}),
    ("Mix 1:20 whey", METRIC, {"whey": 1000 / 21}),
    ("5  ml  neem  oil\nper  litre", METRIC, {"neem oil": 5}),
    ("1.5 litres: soap 15 ml, oil 3 ml", METRIC, {"soap": 10, "oil": 2}),
    ("per gallon: 2 tbsp oil, per quart: 1 tbsp soap", US,
     {"oil": 2 * US_TBSP / GALLON, "soap": 4 * US_TBSP / GALLON}),
    ("day 1: 10 ml soap in 1 litre, on day 4 and 8 again", METRIC, {"soap": 10}),
    ("in rainwater at pH 6, 5 ml soap per litre", METRIC, {"soap": 5}),
    ("10 ml soap in 1 litre, pH 6.5, every 3-4 days x 3", METRIC, {"soap": 10}),
    ("Water with 5 ml soap in 500 ml", METRIC, {"soap": 10}),
    ("Whisk together 2 teaspoons soap and 1 litre tepid water", METRIC, {"soap": 10}),
    ("soap: one teaspoon per litre. Oil: none.", METRIC, {"soap": 5}),
    ("20 g soap melted in 100 ml boiling water, then 900 ml cold water", METRIC, {"soap": 20}),
    ("oil 4 ml, soap half that, 1 l", METRIC, {"oil": 4, "soap": 2}),
    ("5 ml oil + equal amount of soap in 1 l", METRIC, {"oil": 5, "soap": 5}),
    ("four litres of water and one of milk", METRIC, {"milk": 200}),
    ("stock: 3 parts oil, 1 part soap; 10 ml of stock per litre", METRIC,
     {"oil": 7.5, "soap": 2.5}),
    ("mix oil and soap 3:1, use 10 ml of the mix per litre", METRIC, {"oil": 7.5, "soap": 2.5}),
    ("stock: 100 g soft soap in 1 l; use 100 ml of stock per litre", METRIC, {"soft soap": 10}),
)  # fmt: skip

# One thing thinned with water, said in many ways.
THINNED: tuple[Case, ...] = (
    ("one part vinegar, three of water", METRIC, {"vinegar": 250}),
    ("dilute one cup of milk with nine of water", METRIC, {"milk": 100}),
    ("milk, a cup to nine cups", METRIC, {"milk": 100}),
    ("3 cups water to 1 cup milk", METRIC, {"milk": 250}),
    ("1 milk, 9 water", METRIC, {"milk": 100}),
    ("milk 1+9", METRIC, {"milk": 100}),
    ("milk/water 1/9", METRIC, {"milk": 100}),
    ("one part milk in ten", METRIC, {"milk": 100}),
    ("whole milk, 1 part in 9 of water", METRIC, {"milk": 100}),
    ("a 1 in 10 dilution of milk", METRIC, {"milk": 100}),
    ("as much milk as water", METRIC, {"milk": 500}),
    ("whey one third, water two thirds", METRIC, {"whey": 1000 / 3}),
    ("a third nettle tea, two thirds water", METRIC, {"nettle tea": 1000 / 3}),
    ("99% isopropanol thinned with water to 50%", METRIC, {"isopropanol": 50000 / 99}),
    ("70% alcohol watered down by half", METRIC, {"alcohol": 500}),
    ("vinegar undiluted on a brush", METRIC, {"vinegar": 1000}),
    ("neem oil in water, 1:100", METRIC, {"neem": 1000 / 101}),
    ("1 kg comfrey leaves in 10 l, three days, strain, use at 10%", METRIC,
     {"comfrey leaves brew": 100, "comfrey leaves": 10}),
)  # fmt: skip

LAYOUTS: tuple[Case, ...] = (*TWICE, *SPELLED, *LISTED, *THINNED)
