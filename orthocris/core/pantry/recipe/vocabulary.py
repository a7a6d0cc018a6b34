"""The words of recipes that are no ingredients: units, numbers, vague measures, what is done."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cache

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.pantry.substances import named


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a phrase of the vocabulary stands for."""

    kind: Kind
    value: object = None


UNIT_WORDS: dict[str, str] = {
    "ml": "ml|mls|millilitre|millilitres|milliliter|milliliters|cc|c c|mil|mils",
    "cl": "cl|centilitre|centilitres|centiliter|centiliters",
    "dl": "dl|decilitre|decilitres|deciliter|deciliters",
    "l": "l|lt|litre|litres|liter|liters|ltr|ltrs",
    "tsp": "tsp|tsps|teaspoon|teaspoons|teaspoonful|teaspoonfuls|teaspoonsful|tea spoon|"
    "coffee spoon|coffee spoons|coffeespoon|"
    "tea spoons|t spoon",
    "dsp": "dsp|dessertspoon|dessertspoons|dessert spoon|dessert spoons|dessertspoonful|"
    "dessert spoonful",
    "tbsp": "tbsp|tbsps|tbs|tbl|tblsp|tablespoon|tablespoons|tablespoonful|tablespoonfuls|"
    "table spoon|table spoons|soup spoon|soup spoons|serving spoon|spoon|spoons|spoonful|spoonfuls",
    "floz": "floz|fl oz|fluid ounce|fluid ounces|fl ounce|fl ounces|fluid oz",
    "cup": "cup|cups|cupful|cupfuls|teacup|teacups|mug|mugs|mugful|mugfuls|"
    "cupsful|coffee cup|coffee cups|coffee mug|tea cup|tea cups|beaker|beakers",
    "pint": "pint|pints|pt|pts",
    "quart": "quart|quarts|qt|qts",
    "gal": "gal|gals|gallon|gallons",
    "floz_us": "us fluid ounce|us fluid ounces|us fl oz|us floz",
    "cup_us": "us cup|us cups|american cup|american cups",
    "pint_us": "us pint|us pints|pint us|pints us",
    "quart_us": "us quart|us quarts|quart us|quarts us|us qt|us qts",
    "gal_us": "us gallon|us gallons|american gallon|american gallons|us gal|gallon us|gallons us",
    "tbsp_us": "us tablespoon|us tablespoons|us tbsp",
    "tsp_us": "us teaspoon|us teaspoons|us tsp",
    "tbsp_au": "australian tablespoon|australian tablespoons",
    "=floz": "imperial fluid ounce|imperial fluid ounces|imperial fl oz|imperial floz",
    "=pint": "imperial pint|imperial pints|uk pint|uk pints|pint uk|pint imperial",
    "=quart": "imperial quart|imperial quarts|uk quart|uk quarts",
    "=gal": "imperial gallon|imperial gallons|uk gallon|uk gallons|english gallon|gallon uk|"
    "gallons uk|gallon imperial",
    "=cup": "metric cup|metric cups",
    "drop": "drop|drops",
    "mg": "mg|milligram|milligrams",
    "g": "g|gm|gms|gram|grams|gramme|grammes|gr",
    "kg": "kg|kgs|kilo|kilos|kilogram|kilograms",
    "oz?": "oz|ozs|ounce|ounces",  # fluid or by weight, by what it is of
    "oz": "weight ounce|weight ounces|oz weight|ounces weight|ounce weight|dry ounce|dry ounces|"
    "oz by weight|ounces by weight|oz wt|oz dry",
    "lb": "lb|lbs|pound|pounds",
}

CARDINALS: dict[str, int] = {
    "zero": 0, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7,
    "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14,
    "fifteen": 15, "sixteen": 16, "seventeen": 17, "eighteen": 18, "nineteen": 19, "twenty": 20,
    "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80,
    "ninety": 90, "hundred": 100, "thousand": 1000, "dozen": 12, "couple": 2, "single": 1,
}  # fmt: skip

FRACTION_WORDS: dict[str, Fraction] = {
    "half": Fraction(1, 2), "halves": Fraction(1, 2), "third": Fraction(1, 3),
    "thirds": Fraction(1, 3), "quarter": Fraction(1, 4), "quarters": Fraction(1, 4),
    "fourth": Fraction(1, 4), "fifth": Fraction(1, 5), "fifths": Fraction(1, 5),
    "sixth": Fraction(1, 6), "eighth": Fraction(1, 8), "eighths": Fraction(1, 8),
    "tenth": Fraction(1, 10), "tenths": Fraction(1, 10), "twentieth": Fraction(1, 20),
    "hundredth": Fraction(1, 100),
}  # fmt: skip

# Vague measures and how a spoon is filled: typical, and said to be guesses.
FEW, SEVERAL = 3, 5
VAGUE_WORDS: dict[str, Fraction] = {
    "dash": Fraction(1), "splash": Fraction(5), "squirt": Fraction(5, 2), "glug": Fraction(15),
    "pinch": Fraction(3, 10), "capful": Fraction(5), "cap": Fraction(5), "dollop": Fraction(5),
    "drizzle": Fraction(5), "shot": Fraction(30), "shot glass": Fraction(30),
    "squeeze": Fraction(5, 2), "dab": Fraction(1),
    "pump": Fraction(2), "smidgen": Fraction(3, 10), "eggcup": Fraction(40), "touch": Fraction(1),
    "lug": Fraction(15), "jigger": Fraction(44), "thimble": Fraction(5, 2), "handful": Fraction(60),
    "fistful": Fraction(60),
    "spritz": Fraction(1), "spot": Fraction(1), "glass": Fraction(200), "tumbler": Fraction(250),
    "wineglass": Fraction(150), "glassful": Fraction(200),
}  # fmt: skip

HEAP_WORDS: dict[str, Fraction] = {
    "heaped": Fraction(2), "heaping": Fraction(2), "rounded": Fraction(3, 2), "level": Fraction(1),
    "scant": Fraction(4, 5), "generous": Fraction(5, 4), "flat": Fraction(1), "big": Fraction(5, 4),
    "full": Fraction(1), "good": Fraction(5, 4), "small": Fraction(4, 5), "large": Fraction(5, 4),
    "heaped up": Fraction(2), "piled": Fraction(2), "brimming": Fraction(1),
}  # fmt: skip

_PHRASES: tuple[tuple[Kind, str], ...] = (
    (Kind.WATER, "water|rainwater|rain water|tap water|distilled water|filtered water|soft water|"
     "well water|spring water|plain water|clean water|lukewarm water|warm water|cold water|"
     "hot water|boiling water|boiled water|cool water|tepid water|fresh water|still water|"
     "deionised water|deionized water|chlorine free water|unchlorinated water|"
     "dechlorinated water|hard water|bottled water|soft rain water|standing water|h2o"),
    (Kind.ADJECTIVE, "mild|pure|organic|perfumed|optional|"
     "raw|fresh|unscented|perfume free|scented|plain|white|"
     "liquid|concentrated|strong|weak|warm|cold|hot|lukewarm|tepid|cool|"
     "chopped|crushed|minced|ground|grated|dried|dry|powdered|whole|peeled|sliced|natural|"
     "clear|filtered|rain|tap|distilled|soft|hard|colourless|colorless|clean|household|"
     "kitchen|ordinary|normal|usual|standard|cheap|bought|homemade|home made|eco|ecological|"
     "biodegradable|gentle|cold pressed|virgin|extra virgin|refined|unrefined|food grade|"
     "technical|fine|finely|roughly chopped|coarse|green|black|red|sharp|old|dish|washing|"
     "insecticidal|horticultural|skimmed|full fat|semi|light|heavy|same|baby|"
     "cleaning|emulsified|"
     "chlorine free|unchlorinated|dechlorinated|detergent free|fragrance free|dye free|"
     "uncoated|coated|dispersible|effervescent|flakes|granules|pellets|shavings|slivers|gratings|"
     "low sodium|wettable|"
     "soluble|commercial|ready made|"
     "store bought|shop"),
    (Kind.OF, "of|s worth of|worth of"),
    (Kind.IN, "in|into|inside|within|for|dissolved in|mixed in|mixed into|stirred into"),
    (Kind.TO, "to|onto|per cent to|on|against"),
    (Kind.PER, "per|for each|for every|to each|to every|in each|in every|every|by the|to the|"
     "for a|for one|p"),
    (Kind.UP_TO, "up to|make up to|made up to|making up to|made up with|top up to|topped up to|"
     "top to|topped to|fill to|filled to|fill up to|filled up to|to make|makes|making|to give|"
     "make|yields|q s|qs|ad|bring up to|brought up to|bring to|brought to|for a total of|"
     "total of|in total|altogether|total|final|final volume|"
     "end volume|to a total of|to fill|fill|filled"),
    (Kind.AT, "at|is|equals|being|"
     "that is|that's|which is|which are|this is|it is|it's|that means|"
     "which means|meaning|in other words|namely|at a rate of|"
     "at a strength of|at the rate of|at the strength of|rate of|strength of|at about"),
    (Kind.EACH, "each|apiece|of each|each of|respectively each|both"),
    (Kind.SEP, "and|plus|with|then|along with|together with|mixed with|combined with|also|"
     "as well as|and then|add|adding|add in|added|followed by|stir in|beaten with|blended with|"
     "shaken with|thinned with|diluted with|watered down with|after that|next|finally|"
     "cut with|let down with|but|but also|but with|w/|as sticker|as emulsifier|as wetter|"
     "as spreader|into which"),
    (Kind.OR, "or|alternatively|with or without|or without|or else|else|failing that|otherwise|"
     "replaces|replacing|in place of|better than|stronger than|weaker than|worse than|beats|"
     "versus|vs|compared with|compared to|as opposed to"),
    (Kind.VESSEL, "can|bottle|sprayer|bucket|jug|watering can|spray bottle|mister|tank|pail|jar|"
     "knapsack|knapsack sprayer|rucksack sprayer|pressure sprayer|atomiser|atomizer|tub|basin|"
     "barrel|drum|water butt|hand pump|spray can|spray gun|pump sprayer|container|jerrycan|"
     "backpack sprayer|hand sprayer|bowl|"
     "vessel|pot of water|batch|mix|mixture|solution in all|of mix|of spray|of solution|"
     "of ready mix|ready mix|of finished spray|finished spray|trigger bottle|trigger sprayer|"
     "of spray mix|of mixture"),
    (Kind.THIN, "diluted to|thinned to|down to|reduced to|brought down to|cut to|watered to|"
     "watered down to|weakened to|diluted down to|diluted to give|diluted until|made into|"
     "thinned down to|let down to|brought to a strength of|dilute to|thin to|to reach|to get"),
    (Kind.FROM, "from|made from|out of|from a|made out of|using|starting from|of a stock of"),
    (Kind.NEAT, "undiluted|on a brush or swab|on a brush|on a swab|on a cotton bud|"
     "on a cotton swab|"
     "on cotton|with a swab|with a brush|with a cotton bud|neat|straight|"
     "unmixed|not diluted|as it is|full strength|"
     "straight from the bottle|without water|no water|as is|at full strength"),
    (Kind.STEEP, "steep|steeped|steeping|soak|soaked|soaking|boil|boiled|boiling|simmer|simmered|"
     "simmering|infuse|infused|infusing|blend|blended|blending|brewed|macerate|macerated|"
     "ferment|fermented|fermenting|decoct|liquidise|liquidised|puree|pureed|stewed|stew|"
     "left to stand|left in|leave in|cooked|cook|pour over|poured over|mash|mashed|whizzed|"
     "rot|rots|let rot|crush|crushed in|draw|drawn|rotted|left to rot|rotting"),
    (Kind.STRAIN, "strain|strained|straining|sieve|sieved|filter|filtered through|strain off|"
     "strained off|strain out|pressed out|squeezed out"),
    (Kind.BREW, "brew|tea|infusion|decoction|the brew|stock|the stock|concentrate|the concentrate|"
     "liquor|the liquid|the tea|manure|liquid manure|soup|cold brew|steepings|"
     "the premix|this mix|that mix|this mixture|that mixture|the blend|this blend|this solution|"
     "that solution|this emulsion|this stock|that stock|slurry|the infusion|juice|extract|broth|"
     "this|that|it|this brew|that brew|of this|of that|base|the base|stock solution|"
     "concentrated brew|mother brew"),
    (Kind.SOLUTION, "solution|emulsion|suspension|strength|mixture of|mix of|spray|sprays|sol|"
     "dilution|"
     "solution of|emulsion of|"
     "dose|dosage|application rate|"
     "acidity|acid content|abv|by volume|v/v|vol|by weight|w/v|w/w|concentration|"
     "concentration of|dilution of|strength of"),
    (Kind.STRENGTH, "percent|per cent|pct|percentage|pc|per mille|per mil|permille"),
    (Kind.TIMES, "twice|times|double|treble|thrice|doubled|doubling|trebled|tripled|triple"),
    (Kind.SAME, "the same of|the same amount of|the same|as much|as many|an equal amount of|"
     "the same again of|the same amount|an equal volume of|the amount of|the amount|"
     "the same volume of|the same quantity of|equally much|same again|the same again|"
     "its volume of|its own volume of|its volume in|"
     "same again of|same of|same amount of|that of|that much|that amount of|as much of"),
    (Kind.DENIES, "no|without|not|never|free of|free from|instead of|rather than|do not|don't|"
     "never with|not with|avoid|minus|except|but not|but no|nor|neither|"
     "must not|should not|never ever|not even|w/o|w/out"),
    (Kind.DROP, "ratio|ratio of|in ratio|in a ratio|in a ratio of|in the ratio|in the ratio of|"
     "at a ratio of|in proportion|in the proportion|in the proportion of|at the ratio of|"
     "the|my|your|our|their|its|just|really|very|about|roughly|approx|approximately|"
     "around|circa|ca|nearly|almost|exactly|say|maybe|at most|at least|maximum|minimum|max|"
     "please|only|or so|or thereabouts|worth|good old|simply|perhaps|not more than|no more than|"
     "up to about|some about|say about|never more than|not over|never over|no less than|"
     "not stronger than|no stronger than|never stronger than|not weaker than|no weaker than|"
     "never weaker than|at least as strong as|not less than|never less than|not under|not only|"
     "not just|not merely"),
    (Kind.SOME, "some|little|bit|bits|lots|plenty|enough|lot|more|less|any"),
    (Kind.PARTS, "part|parts|measure|measures|volume|volumes|share|shares|portion|portions"),
    (Kind.EQUAL, "equal parts|equal amounts|equal amount|equal volumes|equal volume|"
     "equal quantities|equal measures|equal portions|equal shares|equal part|half and half|"
     "fifty fifty|half half|the same amounts|same amounts|"
     "like amounts|one to one|halve|halved|diluted by half|thinned by half|cut by half|"
     "watered down by half|"
     "let down by half|weakened by half|halved with|halve with|"
     "in equal measure"),
    (Kind.PIECE, "clove|cloves|tablet|tablets|pill|pills|piece|pieces|bulb|bulbs|head|heads|"
     "bag|bags|pod|pods|leaf|leaves|stick|sticks|bunch|bunches|sachet|sachets|wedges"),
    (Kind.VERB, "shake|shaken|shaking|mix well|mix up|mixed up|"
     "mixed|stir|stirred|stirring|spray|sprayed|"
     "spraying|apply|applied|use|used|keep|kept|wait|wash|rinse|rinsed|wipe|dab|dabbed|brush|"
     "brushed|swab|cool|cooled|cooling|let cool|leave|left|let|stand|settle|repeat|repeated|"
     "dissolve|dissolved|dilute|diluted|pour|poured|put|take|whisk|whisked|emulsify|emulsified|"
     "cover|covered|test|treat|dust|dusted|mist|misted|combine|prepare|reach|see|check|"
     "label|store|beat|mixing|mix together|mix|heat|warm up|heated|warmed|give|wet|drench|"
     "start|begin|fill up|top up|topped up|filled up|fill it up|"
     "putting in|put in||go|goes|works|work|coat|sprinkle|sprinkled|measure out|thin|thinned|"
     "watered into|throw away|discard|discarded|bottle it|fill in|hose|drop in|wear|"
     "reserve|watered in|gets|needs|takes|receives|"
     "depending|depending on|according to|chop|grate|slice|mince|"
     "rub|rubbed|sponge|sponged|bathe|bathed|paint|painted|paint on|dip|dipped|"
     "try|tried|together|whisk together|stir together|dab with|dab on|dabbed with|dabbed on|"
     "premix|premixed|pre mix|melt|melted|melting|watered down|thinned down|thinned out|"
     "diluted down|let down|cut|cut down|weakened"),
    (Kind.NOTE, "daily|weekly|fortnightly|once|"
     "morning|evening|evenings|mornings|dusk|dawn|noon|"
     "undersides|underside|tops|top|leaves too|both sides|soil|"
     "dry|wet|sun|shade|sunlight|out of the sun|too|well|often|gently|"
     "thoroughly|carefully|slowly|until|till|when|while|before|after|if|as|so|"
     "by|enough to|fully|evenly|freshly|first|last|later|again|"
     "ornamentals|edibles|delicate|thick|tough|seedlings|flowers|bees|cats|pets|children|"
     "gloves|mask|eyes|skin|flame|fire|dust mask|eye protection|poisonous|careful|caution|"
     "below|above|under|over|run off|runoff|insect by insect|ring|round|"
     "fan|card|cards|hand|fingers|brush or swab|swab|ordinary|usual|usually|"
     "good for|aphids|mites|spider mites|mildew|pests|bugs|whiteflies|whitefly|thrips|"
     "mealybugs|slugs|scale|scale insects|fungus gnats|gnats|caterpillars|beetles|ants|rust|"
     "black spot|blight|leaf miners|first time|second time|next time|each time|time|optionally|"
     "grandma|neighbour|recipe|remedy|which|there|is|"
     "are|be|was|has|have|will|can be|may|must|should|used the same day|same day|fresh|"
     "around|about it|sides|from below|from above|everywhere|whole plant|on both sides|"
     "mark|line|nothing else|anything else|something else|"
     "maybe|perhaps|possibly|if needed|if necessary|if need be|as needed|if you like|if wanted|"
     "ingredients|method|directions|instructions|steps|you need|you will need|cases|you|i|we|"
     "they|them|all|other|others|like|way|label|says|"
     "powder first|powder|the powder|everything|anything|else|"
     "weather|wind|heat|away|off|close|near|between|still|cloudy|cloudy day|foam|cloth|"
     "sieve|muslin|coffee filter|lid|bottle well|hose|jet"),
)  # fmt: skip

# What a mix is for, as one word of it; two of them may be two mixes.
USES = frozenset(
    {"aphid", "mite", "mildew", "pest", "bug", "whiteflie", "whitefly", "thrip", "mealybug",
     "slug", "scale", "gnat", "caterpillar", "beetle", "ant", "rust", "spot", "blight", "miner",
     "ornamental", "edible", "seedling", "flower", "undersides", "soil"}
)  # fmt: skip

# How long something takes, in minutes; beside a number they are no amount of the mix.
TIMES: dict[str, int] = {
    "second": 0, "sec": 0, "minute": 1, "min": 1, "hour": 60, "hr": 60, "h": 60, "day": 1440,
    "night": 480, "week": 10080, "fortnight": 20160, "month": 43200, "year": 525600,
}  # fmt: skip

# Words beside a number that make it no amount of the mix.
COUNTED = ("plant|pot|leaf|cm|mm|m|km|mph|kmh|degree|deg|celsius|fahrenheit|ph|ppm|metre|"
           "meter|inch|foot|people|spraying|round|bush|tree|row|bar|c|f|person|use|application|"
           "place|pm|am|leaves|day old|weeks old")  # fmt: skip


@cache
def vocabulary() -> dict[tuple[str, ...], Meaning]:
    """Return every known phrase, as its words, ingredients included."""
    found: dict[tuple[str, ...], Meaning] = {}

    def put(kind: Kind, phrases: str, value: object = None) -> None:
        for phrase in phrases.split("|"):
            found.setdefault(tuple(phrase.split()), Meaning(kind, value))

    for key, words in UNIT_WORDS.items():
        put(Kind.UNIT, words, key)
    for word, amount in VAGUE_WORDS.items():
        put(Kind.VAGUE, f"{word}|{word}s|{word}es", amount)
    for word, factor in HEAP_WORDS.items():
        put(Kind.HEAP, word, factor)
    for word, minutes in TIMES.items():
        put(Kind.TIME, f"{word}|{word}s", minutes)
    put(Kind.TIME, "overnight", 600)
    for word in COUNTED.split("|"):
        put(Kind.COUNTED, f"{word}|{word}s|{word}es")
    for kind, phrases in _PHRASES:
        put(kind, phrases)
    for spelled, one in named().items():
        if spelled not in _CLASHES:
            kind = Kind.STOCK if one.has(Trait.STOCK) else Kind.NAME
            found[spelled] = Meaning(kind, one)
    return found


# Words that are more often something else in a recipe than the ingredient of that name.
_CLASHES = frozenset({("leaves",), ("tea",), ("cloves",), ("concentrate",)})


@cache
def longest_phrase() -> int:
    """Return the number of words in the longest phrase."""
    return max(len(words) for words in vocabulary())
