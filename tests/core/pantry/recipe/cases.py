"""Recipes as people say them, with answers worked by hand: ml or g in a litre of ready mix.

Each line is a voice of its own: a kitchen, a shed, a notebook, a neighbour from overseas. The
key of an expectation is a word that the part's name must hold.
"""

from __future__ import annotations

from orthocris.core.pantry.units import Region
from tests.core.pantry.recipe.cousins import COUSINS
from tests.core.pantry.recipe.layouts import LAYOUTS
from tests.core.pantry.recipe.told_apart import DENIED, STRENGTHS, TOLD

US, UK, AU, METRIC = Region.US, Region.IMPERIAL, Region.AUSTRALIAN, Region.METRIC

GALLON = 3.785411784  # US, litres
QUART = GALLON / 4
US_TBSP = 14.78676478125  # ml
US_TSP = US_TBSP / 3
US_FLOZ = 29.5735295625
UK_FLOZ = 28.4130625
UK_GALLON = 4.54609
OUNCE = 28.349523125  # g
SODA = 0.9  # g in a ml of baking soda

Case = tuple[str, Region, dict[str, float]]

# One amount in one volume, in many orders and spellings.
PLAIN: tuple[Case, ...] = (
    ("15 ml/L soap", METRIC, {"soap": 15}),
    ("10 ml of soap in 1 litre of water", METRIC, {"soap": 10}),
    ("10 ml soap per litre", METRIC, {"soap": 10}),
    ("10ml soap/l", METRIC, {"soap": 10}),
    ("soap, 10 ml to the litre", METRIC, {"soap": 10}),
    ("soap 10 ml a litre", METRIC, {"soap": 10}),
    ("soap: 10 ml; oil: 10 ml; water up to 1 l", METRIC, {"soap": 10, "oil": 10}),
    ("a litre of water, twenty millilitres of soap", METRIC, {"soap": 20}),
    ("to a litre of warm water add 10 ml soft soap", METRIC, {"soap": 10}),
    ("in 2 litres of rainwater put 3 teaspoons of castile soap", METRIC, {"soap": 7.5}),
    ("per litre: 5 ml oil, 2 ml soap", METRIC, {"oil": 5, "soap": 2}),
    ("For 5 litres: 25 ml neem oil + 10 ml soap", METRIC, {"neem": 5, "soap": 2}),
    ("15 ml/L oil, 2 ml/L soap", METRIC, {"oil": 15, "soap": 2}),
    ("5ml oil + 2ml soap in 1l", METRIC, {"oil": 5, "soap": 2}),
    ("5 ml oil & 2 ml soap, topped up to 500 ml", METRIC, {"oil": 10, "soap": 4}),
    ("soap 10 ml oil 5 ml water to 1 litre", METRIC, {"soap": 10, "oil": 5}),
    ("10 ml soap, fill to 1 litre", METRIC, {"soap": 10}),
    ("200 ml milk made up to a litre with water", METRIC, {"milk": 200}),
    ("Emulsify 5 ml neem oil with 1 ml soap, then add 1 litre of lukewarm water.", METRIC,
     {"neem": 5, "soap": 1}),
    ("dissolve 5 g of baking soda in a litre of water", METRIC, {"baking soda": 5}),
    ("10 ml soap for every 2 litres of water", METRIC, {"soap": 5}),
    ("one and a half teaspoons of soap in a 750 ml bottle", METRIC, {"soap": 10}),
    ("half a litre of water with a teaspoon of soap", METRIC, {"soap": 10}),
    ("1 tbsp oil per 5 litres", METRIC, {"oil": 3}),
    ("2 tbsp. soap / 3 L", METRIC, {"soap": 10}),
    ("about 10 ml washing up liquid in roughly 1 litre", METRIC, {"washing up liquid": 10}),
    ("10 cc soap per liter", METRIC, {"soap": 10}),
    ("2 cl soap to 1 l", METRIC, {"soap": 20}),
    ("1 dl milk in 1 l", METRIC, {"milk": 100}),
    ("a spray bottle of 500 ml with 5 ml soap", METRIC, {"soap": 10}),
    ("fill a 1 litre sprayer with water and stir in 8 ml soap", METRIC, {"soap": 8}),
    ("10 ml soap (castile, unscented) in 1 litre (boiled, cooled)", METRIC, {"soap": 10}),
    ("1 tablespoon (15 ml) soap in 1 litre", METRIC, {"soap": 15}),
    ("10 ml soap in 1 litre, 40 ml a plant, every 3 days", METRIC, {"soap": 10}),
    ("10 ml soap in 1 l, spray in the evening below 27 °C, undersides too", METRIC, {"soap": 10}),
    ("10 ml soap in chlorine-free water, 1 litre", METRIC, {"soap": 10}),
    ("10 ml soap per litre, no oil", METRIC, {"soap": 10}),
)  # fmt: skip

# Numbers as they are written elsewhere.
NUMBERS: tuple[Case, ...] = (
    ("10 ml soap in 1,000 ml", METRIC, {"soap": 10}),
    ("1,5 ml soap in 1 l", METRIC, {"soap": 1.5}),
    ("2,5 ml soap to 500 ml", METRIC, {"soap": 5}),
    ("0,5 % neem", METRIC, {"neem": 5}),
    ("0,125 l milk in 1 l", METRIC, {"milk": 125}),
    ("100 ml soap in 10 000 ml water", METRIC, {"soap": 10}),
    ("½ tsp soap in 250 ml", METRIC, {"soap": 10}),
    ("1½ tsp soap in 750 ml", METRIC, {"soap": 10}),
    ("1 1/2 tsp oil in a 750 ml bottle", METRIC, {"oil": 10}),
    ("quarter teaspoon of soap in 250 ml", METRIC, {"soap": 5}),
    ("a quarter of a teaspoon soap in a quarter litre", METRIC, {"soap": 5}),
    ("three quarters of a teaspoon of soap in 750 ml", METRIC, {"soap": 5}),
    ("twenty-five ml of soap in two and a half litres", METRIC, {"soap": 10}),
    ("a dozen drops of soap in half a litre", METRIC, {"soap": 1.2}),
    (".5 tsp soap in .5 l", METRIC, {"soap": 5}),
    ("between 5 and 15 ml soap per litre", METRIC, {"soap": 10}),
    ("10-20 ml of oil and 2 ml soap in a 1-litre can", METRIC, {"oil": 15, "soap": 2}),
    ("1 to 2 teaspoons soap in 1.5 litres", METRIC, {"soap": 5}),
    ("a couple of drops of soap to 100 ml", METRIC, {"soap": 1}),
    ("a few drops of soap in 1 litre", METRIC, {"soap": 0.15}),
)  # fmt: skip

# Each part its own volume; shares, ratios and amounts side by side.
MIXED: tuple[Case, ...] = (
    ("2% soap and 1% oil", METRIC, {"soap": 20, "oil": 10}),
    ("soap 2 %, oil 1 %", METRIC, {"soap": 20, "oil": 10}),
    ("oil at one percent with soap at half a percent", METRIC, {"oil": 10, "soap": 5}),
    ("2 percent soap", METRIC, {"soap": 20}),
    ("a 2% soap solution", METRIC, {"soap": 20}),
    ("2% solution of soap", METRIC, {"soap": 20}),
    ("0.5 % (v/v) neem oil", METRIC, {"neem": 5}),
    ("1:50 soap and 5 ml oil per litre", METRIC, {"soap": 1000 / 51, "oil": 5}),
    ("1% oil plus 2 ml soap per litre", METRIC, {"oil": 10, "soap": 2}),
    ("2 tbsp soap per gallon and 1 tsp oil per quart", US,
     {"soap": 2 * US_TBSP / GALLON, "oil": US_TSP / QUART}),
    ("10 ml soap per litre, 5 ml oil per 500 ml", METRIC, {"soap": 10, "oil": 10}),
    ("5 ml each of soap and oil in 1 litre", METRIC, {"soap": 5, "oil": 5}),
    ("soap and oil, 5 ml each, in a litre", METRIC, {"soap": 5, "oil": 5}),
    ("1 tbsp each soap and oil per 3 litres", METRIC, {"soap": 5, "oil": 5}),
    ("10 ml oil and the same of soap in 2 litres", METRIC, {"oil": 5, "soap": 5}),
    ("10 ml oil and half as much soap in 1 l", METRIC, {"oil": 10, "soap": 5}),
)  # fmt: skip

# Parts and ratios.
PARTS: tuple[Case, ...] = (
    ("soap 1:40", METRIC, {"soap": 1000 / 41}),
    ("1:40 soap", METRIC, {"soap": 1000 / 41}),
    ("soap diluted 1 to 40", METRIC, {"soap": 1000 / 41}),
    ("1 in 50 neem oil", METRIC, {"neem": 20}),
    ("one in twenty soap", METRIC, {"soap": 50}),
    ("milk, one in ten", METRIC, {"milk": 100}),
    ("one part milk to nine parts water", METRIC, {"milk": 100}),
    ("one part milk to four", METRIC, {"milk": 200}),
    ("nine parts water, one part milk", METRIC, {"milk": 100}),
    ("milk 1 part, water 4 parts", METRIC, {"milk": 200}),
    ("1 part milk to 4 parts of water", METRIC, {"milk": 200}),
    ("2 parts soap, 1 part oil, 97 parts water", METRIC, {"soap": 20, "oil": 10}),
    ("half and half milk and water", METRIC, {"milk": 500}),
    ("milk and water half and half", METRIC, {"milk": 500}),
    ("equal parts milk and water", METRIC, {"milk": 500}),
    ("milk and water in equal parts", METRIC, {"milk": 500}),
    ("half milk, half water", METRIC, {"milk": 500}),
    ("50/50 milk and water", METRIC, {"milk": 500}),
    ("one third milk, two thirds water", METRIC, {"milk": 1000 / 3}),
    ("a cup of milk to seven cups of water", METRIC, {"milk": 125}),
    ("1 cup milk to 9 cups water", METRIC, {"milk": 100}),
    ("1 litre of nettle brew to 4 litres of water", METRIC, {"nettle brew": 200}),
    ("500 ml milk plus 500 ml water", METRIC, {"milk": 500}),
    ("20 ml soap, 980 ml water", METRIC, {"soap": 20}),
    ("100 ml vinegar + 900 ml water", METRIC, {"vinegar": 100}),
    ("undiluted milk", METRIC, {"milk": 1000}),
    ("70% isopropyl alcohol, neat", METRIC, {"alcohol": 1000}),
    ("milk thinned with nine times as much water", METRIC, {"milk": 100}),
)  # fmt: skip

# Bottles that already are of some strength.
STOCKS: tuple[Case, ...] = (
    ("150 ml of 70% alcohol in 1 litre", METRIC, {"70% alcohol": 150}),
    ("alcohol (70%) 150 ml, soap 2 ml, water to 1 l", METRIC, {"alcohol": 150, "soap": 2}),
    ("1 part 70% rubbing alcohol to 3 parts water", METRIC, {"alcohol": 250}),
    ("3% hydrogen peroxide diluted to 0.5%", METRIC, {"peroxide": 1000 / 6}),
    ("3 percent peroxide thinned to 1 percent", METRIC, {"peroxide": 1000 / 3}),
    ("peroxide 6% down to 1%", METRIC, {"peroxide": 1000 / 6}),
    ("0.5% peroxide from a 3% bottle", METRIC, {"peroxide": 1000 / 6}),
    ("hydrogen peroxide 3%, 1:5 with water", METRIC, {"peroxide": 1000 / 6}),
    ("20% of 70% isopropyl alcohol", METRIC, {"alcohol": 200}),
    ("99% isopropyl alcohol, 100 ml to 900 ml water", METRIC, {"alcohol": 100}),
)  # fmt: skip

# Ounces, gallons and other people's kitchens.
ABROAD: tuple[Case, ...] = (
    ("1 tbsp soap per gallon", US, {"soap": US_TBSP / GALLON}),
    ("1 tbsp soap per gallon", UK, {"soap": 15 / UK_GALLON}),
    ("1 tbsp soap per litre", AU, {"soap": 20}),
    ("2 oz soap per gallon", US, {"soap": 2 * US_FLOZ / GALLON}),
    ("2 oz baking soda per gallon", US, {"baking soda": 2 * OUNCE / GALLON}),
    ("1 tsp dish soap in a 16 oz bottle", US, {"dish soap": US_TSP / (16 * US_FLOZ) * 1000}),
    ("1 tsp dish soap in a 16-oz. spray bottle", US,
     {"dish soap": US_TSP / (16 * US_FLOZ) * 1000}),
    ("1 fl oz of oil in 1 quart", US, {"oil": 31.25}),
    ("1 fl. oz. neem in a gallon", UK, {"neem": 1000 / 160}),
    ("1 Tbsp baking soda, 1 Tbsp horticultural oil, 1 gal water", US,
     {"baking soda": US_TBSP * SODA / GALLON, "horticultural oil": US_TBSP / GALLON}),
    ("2 tsp neem oil and 1 tsp liquid soap per quart of warm water", US,
     {"neem": 2 * US_TSP / QUART, "soap": US_TSP / QUART}),
    ("1 cup rubbing alcohol and 1/2 tsp dish soap to 1 quart water", US,
     {"alcohol": 48_000 / 240.5, "dish soap": 500 / 240.5}),  # 48 + 1/2 + 192 US teaspoons
    ("a pint of milk to nine pints of water", UK, {"milk": 100}),
    ("1 oz baking soda in 2 gallons of water", US, {"baking soda": OUNCE / (2 * GALLON)}),
    ("2 tablespoons of vegetable oil & 2 teaspoons of dish soap to each gallon", US,
     {"vegetable oil": 2 * US_TBSP / GALLON, "dish soap": 2 * US_TSP / GALLON}),
)  # fmt: skip

# Vague measures, powders by the spoon.
ROUGH: tuple[Case, ...] = (
    ("a heaped dessert spoon of baking soda to a 5-litre can and a dash of soap", METRIC,
     {"baking soda": 20 * SODA / 5, "soap": 0.2}),
    ("5 g baking soda, 5 ml oil, a few drops of soap in 1 litre", METRIC,
     {"baking soda": 5, "oil": 5, "soap": 0.15}),
    ("a squirt of soap in a 1 litre sprayer", METRIC, {"soap": 2.5}),
    ("level teaspoon of bicarb to a litre", METRIC, {"bicarb": 5 * SODA}),
    ("40 g potassium bicarbonate in a 10 litre bucket", METRIC, {"potassium bicarbonate": 4}),
    ("1 teaspoon bicarbonate of soda, 1 litre water, splash of washing-up liquid", METRIC,
     {"bicarbonate of soda": 5 * SODA, "washing-up liquid": 5}),
    ("20 drops of tea tree oil and 5 ml soap in half a litre", METRIC,
     {"tea tree oil": 2, "soap": 10}),
    ("2 aspirin tablets in 4 litres", METRIC, {"aspirin": 0.25}),
)  # fmt: skip

# Solid things steeped: the solid as grams in a litre of ready mix, and the brew as its share.
BREWS: tuple[Case, ...] = (
    ("100 g garlic steeped in 1 litre of water overnight, strained", METRIC,
     {"garlic brew": 1000, "garlic": 100}),
    ("1 kg nettles soaked in 10 litres of water for a day, diluted 1:9", METRIC,
     {"nettles brew": 100, "nettles": 10}),
    ("Boil 50 g of chilli in 500 ml water for 15 minutes, cool, strain, then 1 part brew to 4 parts"
     " water with 2 ml soap per litre", METRIC,
     {"chilli brew": 200, "chilli": 20, "soap": 2}),
    ("50 g horsetail boiled in 1 l water 20 min, strained; 100 ml of the brew in 1 litre", METRIC,
     {"horsetail brew": 100, "horsetail": 5}),
    ("infuse 20 g of chamomile in a litre of hot water, cool and strain", METRIC,
     {"chamomile brew": 1000, "chamomile": 20}),
    ("100 ml strained brew made up to 1 litre", METRIC, {"brew": 100}),
)  # fmt: skip

# Said by others, after the ones above were right.
CASES_LATER: tuple[Case, ...] = (
    ("one cup of vegetable oil mixed with one tablespoon of soap; use 2 tsp of this mix per cup of"
     " water", METRIC, {"vegetable oil": 40 * 250 / 265, "soap": 40 * 15 / 265}),
    ("20 ml soap in 1 litre of water, then dilute 1:10", METRIC, {"soap": 20 / 11}),
    ("30 ml soap and 10 ml oil in 1 litre, diluted one in five", METRIC, {"soap": 6, "oil": 2}),
    ("10 ml soap, 5 ml oil, thinned 1:100 before use", METRIC,
     {"soap": 10 / 15 * 1000 / 101, "oil": 5 / 15 * 1000 / 101}),
    ("nettle brew half and half with water", METRIC, {"nettle brew": 500}),
    ("milk mixed equal parts with water", METRIC, {"milk": 500}),
    ("nettle brew, use at 10%", METRIC, {"nettle brew": 100}),
    ("50 g onion boiled in 1 litre, strain, then half and half with water", METRIC,
     {"onion brew": 500, "onion": 25}),
    ("a squirt (5 ml) of soap in 1 litre", METRIC, {"soap": 5}),
    ("aspirin 1 tablet (325 mg) per 4 litres", METRIC, {"aspirin": 0.325 / 4}),
    ("3 aspirin tablets (325 mg each) in 4 litres", METRIC, {"aspirin tablets": 0.975 / 4}),
    ("1 tablespoon (20 ml) soap in 1 litre", METRIC, {"soap": 20}),
    ("1 heaped teaspoon (8 g) baking soda per litre", METRIC, {"baking soda": 8}),
    ("2 onions (200 g) steeped in 1 litre overnight, strained", METRIC,
     {"onions brew": 1000, "onions": 200}),
    ("skim milk and water 1 to 2", METRIC, {"milk": 1000 / 3}),
    ("60 parts water 40 parts milk", METRIC, {"milk": 400}),
    ("70 percent alcohol cut with equal parts water", METRIC, {"70% alcohol": 500}),
    ("alcohol 20% made from 70%", METRIC, {"alcohol": 2000 / 7}),
    ("peroxide (3%) diluted with three parts water", METRIC, {"3% peroxide": 250}),
    ("milk : water = 1 : 9", METRIC, {"milk": 100}),
    ("9:1 water to milk", METRIC, {"milk": 100}),
    # What was read wrongly without a word before: which side is water, shares of a hundred.
    ("100:1 soap", METRIC, {"soap": 1000 / 101}),
    ("soap, 50 to 1", METRIC, {"soap": 1000 / 51}),
    ("milk diluted 9:1", METRIC, {"milk": 100}),
    ("comfrey tea, watered down 10 to 1", METRIC, {"comfrey tea": 1000 / 11}),
    ("nettle tea thinned down 1:5", METRIC, {"nettle tea": 1000 / 6}),
    ("milk cut 1:9 with water", METRIC, {"milk": 100}),
    ("40/60 milk and water", METRIC, {"milk": 400}),
    ("30/70 vinegar/water", METRIC, {"vinegar": 300}),
    ("60-40 water and milk", METRIC, {"milk": 400}),
    ("70/30 water to alcohol", METRIC, {"alcohol": 300}),
    ("soap to water 1:50", METRIC, {"soap": 1000 / 51}),
    ("equal amounts soap and oil, 5 ml each, per litre", METRIC, {"soap": 5, "oil": 5}),
    ("2 x 5 ml soap in 1 l", METRIC, {"soap": 10}),
    ("a quarter of an aspirin in a litre", METRIC, {"aspirin": 0.125}),
    ("half an onion in a litre of water, overnight, strained", METRIC,
     {"onion brew": 1000, "onion": 50}),
    ("a 10% stock of soap, 20 ml to the litre", METRIC, {"stock of soap": 20}),
    ("one third milk and the rest water", METRIC, {"milk": 1000 / 3}),
    ("soap : oil : water 1:1:98", METRIC, {"soap": 10, "oil": 10}),
    ("1/10 milk", METRIC, {"milk": 100}),
    ("per gallon of water, two tablespoons of oil and one of soap", US,
     {"oil": 2 * US_TBSP / GALLON, "soap": US_TBSP / GALLON}),
    ("a teaspoon of each, soap and oil, in a litre", METRIC, {"soap": 5, "oil": 5}),
    ("top up with water to 1 litre after putting in 10 ml soap", METRIC, {"soap": 10}),
    ("1.000 ml water, 10 ml soap", METRIC, {"soap": 10}),
    ("2 litres of 1% oil with 0.2% soap", METRIC, {"oil": 10, "soap": 2}),
    ("500 ml of a 1:50 soap mix", METRIC, {"soap": 1000 / 51}),
    ("10 ml soap plus half that of oil in 1 litre", METRIC, {"soap": 10, "oil": 5}),
    ("2 heads garlic, 1 litre boiling water, steep overnight, strain, add 1 tsp soap, use neat",
     METRIC, {"garlic brew": 995, "garlic": 99.5, "soap": 5}),
    ("undiluted milk, 10 ml soap per litre", METRIC, {"milk": 990, "soap": 10}),
    ("garlic tea: 3 cloves in 1 l, boil 5 min; strained", METRIC,
     {"garlic brew": 1000, "garlic": 15}),
    ("2 bulbs of garlic blended with 500 ml water, left overnight, strained, diluted to 5 litres",
     METRIC, {"garlic brew": 100, "garlic": 20}),
    ("2 aspirin (500 mg) in 4 litres of water", METRIC, {"aspirin": 0.25}),
    ("one part 3% hydrogen peroxide and four parts water", METRIC, {"peroxide": 200}),
    ("1 litre of water to 5 ml of soap", METRIC, {"soap": 5}),
    ("water (1 l), soap (10 ml), neem (5 ml)", METRIC, {"soap": 10, "neem": 5}),
    ("10 ml soap in a litre, sprayed at 6 pm on 12 plants, 20 ml each", METRIC, {"soap": 10}),
    ("2 T. oil and 1 t soap per gallon", US,
     {"oil": 2 * US_TBSP / GALLON, "soap": US_TBSP / 3 / GALLON}),
    ("70% alcohol and water in the ratio 1:3", METRIC, {"70% alcohol": 250}),
    ("alcohol and water at a ratio of 1 to 4", METRIC, {"alcohol": 200}),
    ("milk, diluted to 10 %", METRIC, {"milk": 100}),
    ("10 ml oil per gallon US", METRIC, {"oil": 10 / GALLON}),
    ("comfrey tea diluted one to ten, 5 ml soap per litre", METRIC,
     {"comfrey tea": 1000 / 11, "soap": 5}),
    ("100 g nettles in 1 l of water for 24 hours, strain, add 4 litres of water", METRIC,
     {"nettles brew": 200, "nettles": 20}),
    ("3 cloves garlic in 250 ml hot water for an hour, strained, then 750 ml water and 5 ml soap",
     METRIC, {"garlic brew": 250, "garlic": 15, "soap": 5}),
    ("100 g horsetail in 1 l, simmer half an hour, strain, thin with 4 parts water", METRIC,
     {"horsetail brew": 200, "horsetail": 20}),
    ("50 g onion in 1 l boiling water, strain, twice as much water", METRIC,
     {"onion brew": 1000 / 3, "onion": 50 / 3}),
    ("dissolve 30 g soap flakes in 500 ml hot water and make up to 5 litres", METRIC,
     {"soap flakes": 6}),
    ("chop 2 cloves garlic and boil in 1 litre for 10 minutes", METRIC,
     {"garlic brew": 1000, "garlic": 10}),
    ("2 tbsp hot pepper sauce and 5 ml soap in 1 litre", METRIC,
     {"hot pepper sauce": 30, "soap": 5}),
)  # fmt: skip

# Heard in another year.
LATEST: tuple[Case, ...] = (
    ("5 aspirins (300 mg) in 10 litres", METRIC, {"aspirins": 0.15}),
    ("1 aspirin tablet 500 mg per 2 litres", METRIC, {"aspirin": 0.25}),
    ("2 heads garlic (100 g) in 1 litre steeped, strained", METRIC,
     {"garlic brew": 1000, "garlic": 100}),
    ("mix up a batch: 4 litres water, 40 ml soft soap, 20 ml rapeseed oil", METRIC,
     {"soap": 10, "oil": 5}),
    ("white oil: 1 cup veg oil and 1/4 cup dish soap; 1 tbsp of this per litre", METRIC,
     {"veg oil": 12, "soap": 3}),
    ("soap spray = 30ml soap : 1 litre", METRIC, {"soap": 30}),
    ("baking soda, 1 tsp per litre (approx 5 g)", METRIC, {"soda": 5 * SODA}),
    ("Cornflower style: 1 tbsp baking soda, 2.5 tbsp oil, 1 gal water", US,
     {"soda": US_TBSP * SODA / GALLON, "oil": 2.5 * US_TBSP / GALLON}),
    ("nettle tea: 100 g fresh nettles per litre, 24 hours, strained, diluted 1:5", METRIC,
     {"nettles brew": 1000 / 6, "nettles": 100 / 6}),
    ("a litre of water gets 2 teaspoons of soft soap and one of rapeseed oil", METRIC,
     {"soap": 10, "oil": 5}),
    ("1% (10 ml per litre) soft soap", METRIC, {"soap": 10}),
    ("20 ml soap; final volume 2 l", METRIC, {"soap": 10}),
    ("soap concentration 1%", METRIC, {"soap": 10}),
    ("One (1) tablespoon(s) of soap per gallon", US, {"soap": US_TBSP / GALLON}),
    ("a drop or two of soap per litre", METRIC, {"soap": 0.075}),
    ("peroxide of 3 percent thinned with water to 1 percent", METRIC, {"peroxide": 1000 / 3}),
    ("use soft soap at the rate of 10 ml per litre", METRIC, {"soap": 10}),
    ("two 500 ml bottles, 5 ml soap in each", METRIC, {"soap": 10}),
    ("12 May: 10 ml soap in 1 l, 3x a week, 20-25 °C", METRIC, {"soap": 10}),
)  # fmt: skip

CASES: tuple[Case, ...] = (
    *PLAIN, *NUMBERS, *MIXED, *PARTS, *STOCKS, *ABROAD, *ROUGH, *BREWS, *CASES_LATER,
    *STRENGTHS, *DENIED, *TOLD, *LAYOUTS, *LATEST, *COUSINS,
)  # fmt: skip
