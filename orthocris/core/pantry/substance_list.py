"""Every substance that the pantry knows, by name or by the kind that its name tells.

Densities and weights of a piece are typical values.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction


class Form(StrEnum):
    """How an ingredient comes."""

    LIQUID = "liquid"
    POWDER = "powder"  # weighed; by the spoon it needs its density
    SOLID = "solid"  # steeped, boiled or soaked; what is strained off does not go in


class Trait(StrEnum):
    """What matters of an ingredient beside its strength: chemistry and dangers."""

    SOAPY = "soapy"  # holds oil in water
    DETERGENT = "detergent"
    OIL = "oil"
    NEEM = "neem"
    SCENTED = "scented"
    CITRUS = "citrus"
    CINNAMON = "cinnamon"
    ACID = "acid"
    CARBONATE = "carbonate"  # gives off gas with an acid
    SODIUM = "sodium"
    PEROXIDE = "peroxide"
    FLAMMABLE = "flammable"
    DENATURED = "denatured"  # made undrinkable: alcohol with methanol or worse in it
    NO_REMEDY = "no_remedy"  # fuels, solvents, cleaners: nothing of them belongs on a plant
    BLEACH = "bleach"
    AMMONIA = "ammonia"
    SULPHUR = "sulphur"
    COPPER = "copper"
    NICOTINE = "nicotine"
    BORAX = "borax"
    PYRETHRIN = "pyrethrin"
    SPINOSAD = "spinosad"
    BACTERIA = "bacteria"  # alive: what kills germs kills them
    MINERAL = "mineral"  # an oil of the earth, not of a kitchen
    PESTICIDE = "pesticide"  # sold against pests, by a label
    VAPOUR = "vapour"  # given off into the air of a room
    SULPHIDE = "sulphide"  # gives off a poisonous gas with an acid
    CYANIDE = "cyanide"  # the same, and deadly by itself
    SULPHITE = "sulphite"
    SALT = "salt"
    BAKING_POWDER = "baking_powder"
    POOL_EARTH = "pool_earth"  # burnt for filters: its crystals cut lungs
    CAUSTIC = "caustic"
    STRONG_ACID = "strong_acid"
    DUST = "dust"
    PEPPER = "pepper"
    POISON = "poison"
    STOCK = "stock"  # sold at a strength that has to be known
    BREW = "brew"


@dataclass(frozen=True, slots=True)
class Substance:
    """One ingredient.

    `names` are its spellings, words apart by single spaces; `density` g in a ml of a powder;
    `piece` g of one piece (a clove, a tablet); `stock` the usual strength in the shop, as a
    share.
    """

    key: str
    names: tuple[str, ...]
    form: Form
    traits: frozenset[Trait]
    density: Fraction | None = None
    piece: Fraction | None = None
    stock: Fraction | None = None

    def has(self, *traits: Trait) -> bool:
        """True when it has one of these traits."""
        return any(trait in self.traits for trait in traits)


def _made(
    form: Form,
    key: str,
    names: str,
    *traits: Trait,
    density: str | None = None,
    piece: str | None = None,
    stock: str | None = None,
) -> Substance:
    exact = [None if given is None else Fraction(given) for given in (density, piece, stock)]
    return Substance(key, tuple(names.split("|")), form, frozenset(traits), *exact)


def _liquid(key: str, names: str, *traits: Trait, stock: str | None = None) -> Substance:
    return _made(Form.LIQUID, key, names, *traits, stock=stock)


def _powder(
    key: str, names: str, *traits: Trait, density: str = "0.8", piece: str | None = None
) -> Substance:
    return _made(Form.POWDER, key, names, *traits, density=density, piece=piece)


def _solid(key: str, names: str, *traits: Trait, piece: str | None = None) -> Substance:
    return _made(Form.SOLID, key, names, *traits, piece=piece)


T = Trait
SUBSTANCES: tuple[Substance, ...] = (
    # Soaps and what holds oil in water.
    _liquid("soap", "soap|liquid soap|soft soap|castile soap|castile|potassium soap|plant soap|"
            "black soap|green soap|insecticidal soap|fatty acid soap|potassium salts of fatty acids"
            "|soap concentrate|horticultural soap|olive oil soap|olive soap|oil soap|neem soap|"
            "pure soap|marseille soap|aleppo soap|glycerine soap|glycerin soap|"
            "plant oil soap|potassium or plant oil soap|"
            "liquid potassium or plant oil soap|hand soap|coconut soap|vegetable soap", T.SOAPY),
    _powder("solid_soap", "soap flakes|grated soap|bar soap|bar of soap|soap powder|curd soap|"
            "household soap", T.SOAPY, density="0.3"),
    _liquid("detergent", "detergent|dish detergent|dish soap|dishsoap|dishwashing soap|"
            "dishwashing liquid|dish washing liquid|dish liquid|washing up liquid|"
            "washingup liquid|washing liquid|washing up|washing up soap|dishwash|dish wash|"
            "shampoo|baby shampoo|degreaser|liquid detergent|"
            "dishwashing detergent|grease cutting dish detergent",
            T.SOAPY, T.DETERGENT),
    # Made for machines: alkali, bleach, enzymes and scent.
    _liquid("machine_detergent", "dishwasher detergent|dishwasher soap|dishwasher tablet|"
            "dishwasher tablets|dishwasher tabs|dishwasher powder|dishwasher liquid|"
            "dishwasher gel|dishwasher salt|dishwasher rinse|dishwasher cleaner|"
            "machine dishwasher detergent|automatic dishwasher detergent|"
            "machine dishwashing detergent|automatic dishwashing detergent|"
            "laundry detergent|laundry soap|laundry liquid|laundry powder|laundry pods|"
            "laundry pod|laundry tablets|liquid laundry detergent|laundry detergent powder|"
            "powdered laundry detergent|clothes detergent|clothes washing liquid|"
            "washing powder|washing machine detergent|washing machine liquid|soap for clothes|"
            "fabric softener|fabric conditioner|stain remover|oxygen bleach|oxi powder",
            T.NO_REMEDY, T.CAUSTIC),
    _liquid("emulsifier", "emulsifier|emulsifiers|lecithin|polysorbate|solubiliser|"
            "solubilizer", T.SOAPY),
    # Oils.
    _liquid("oil", "oil|vegetable oil|veg oil|veggie oil|"
            "cooking oil|plant oil|sunflower oil|rapeseed oil|rape oil|"
            "canola oil|canola|olive oil|soybean oil|soya oil|soy oil|corn oil|maize oil|"
            "sesame oil|walnut oil|nut oil|almond oil|grapeseed oil|avocado oil|hemp oil|palm oil|"
            "rice bran oil|safflower oil|flaxseed oil|flax oil|argan oil|mustard oil|"
            "cottonseed oil|peanut oil|groundnut oil|salad oil|seed oil|castor oil|coconut oil|"
            "linseed oil|fish oil|frying oil|jojoba oil", T.OIL),
    _liquid("mineral_oil", "mineral oil|light mineral oil|paraffin oil|liquid paraffin|white oil|"
            "horticultural oil|summer oil|dormant oil|winter oil|spray oil|baby oil|petroleum oil|"
            "tree oil|summer weight horticultural oil|light oil|vaseline oil", T.OIL, T.MINERAL),
    _liquid("neem", "neem|neem oil|cold pressed neem|cold pressed neem oil|raw neem oil|"
            "pure neem oil|neem seed oil|margosa oil|azadirachtin|neem extract|neem concentrate|"
            "karanja oil", T.OIL, T.NEEM),
    _solid("neem_solid", "neem cake|neem leaves|neem seeds|neem kernels|neem powder", T.NEEM),
    _liquid("essential_oil", "essential oil|essential oils|scented oil|scented oils|tea tree oil|"
            "tea tree|peppermint oil|mint oil|rosemary oil|eucalyptus oil|lavender oil|thyme oil|"
            "oregano oil|lemongrass oil|citronella oil|citronella|geranium oil|basil oil|cedar oil"
            "|clove oil|garlic oil|pine oil|spearmint oil|patchouli oil|wintergreen oil|"
            "rosemary or peppermint oil|"
            "rosemary essential oil|peppermint essential oil|lavender essential oil",
            T.OIL, T.SCENTED),
    _liquid("citrus_oil", "citrus oil|orange oil|lemon oil|d limonene|limonene|grapefruit oil|"
            "bergamot oil|lime oil|orange essential oil|lemon essential oil",
            T.OIL, T.SCENTED, T.CITRUS),
    _liquid("cinnamon_oil", "cinnamon oil|cinnamon leaf oil|cinnamon bark oil|cassia oil|"
            "cinnamon essential oil", T.OIL, T.SCENTED, T.CINNAMON),
    # Household bottles with a strength.
    _liquid("alcohol", "methylated spirit|methylated spirits|meths|denatured alcohol|"
            "denatured spirit|denatured spirits|burning spirit|burning alcohol",
            T.FLAMMABLE, T.DENATURED, T.STOCK, stock="0.9"),
    _liquid("alcohol", "alcohol|isopropyl alcohol|isopropyl|isopropanol|rubbing alcohol|ipa|"
            "surgical spirit|surgical spirits|spirit|spirits|ethanol|ethyl alcohol|vodka|"
            "white spirits of wine|medical alcohol|isopropyl rubbing alcohol|propanol|"
            "hand sanitiser|hand sanitizer",
            T.FLAMMABLE, T.STOCK, stock="0.7"),
    _liquid("peroxide", "peroxide|hydrogen peroxide|h2o2|oxygen water", T.PEROXIDE, T.STOCK,
            stock="0.03"),
    _liquid("vinegar", "vinegar|white vinegar|cider vinegar|apple cider vinegar|apple vinegar|"
            "wine vinegar|distilled vinegar|malt vinegar|spirit vinegar|cleaning vinegar|"
            "rice vinegar|vinegar essence|acetic acid", T.ACID, T.STOCK, stock="0.05"),
    _liquid("strong_acid", "hydrochloric acid|muriatic acid|sulphuric acid|sulfuric acid|"
            "nitric acid|oxalic acid|battery acid|formic acid|spirits of salt|"
            "phosphoric acid|glacial acetic acid|sulphamic acid|sulfamic acid|"
            "trichloroacetic acid|brick acid|descaler|rust remover", T.ACID, T.STRONG_ACID),
    _liquid("acid", "lemon juice|lemon|lime juice|citrus juice|acid|lactic acid|"
            "juice of lemon|orange juice", T.ACID),
    _powder("citric_acid", "citric acid|tartaric acid|cream of tartar|ascorbic acid|vitamin c",
            T.ACID),
    _liquid("bleach", "bleach|household bleach|chlorine bleach|chlorine|sodium hypochlorite|"
            "hypochlorite|javel water|eau de javel|pool chlorine|bleaching powder|"
            "chlorinated cleaner|toilet cleaner|calcium hypochlorite", T.BLEACH, T.STOCK),
    _liquid("ammonia", "ammonia|ammonia water|household ammonia|sal ammoniac|ammonium hydroxide|"
            "ammonia solution|smelling salts|sal volatile|hartshorn|spirit of hartshorn|"
            "spirits of hartshorn|salt of hartshorn|spirit of ammonia|spirits of ammonia|"
            "ammonium carbonate", T.AMMONIA, T.NO_REMEDY),
    _liquid("fuel", "petrol|gasoline|kerosene|diesel|paraffin|white spirit|turpentine|"
            "gas oil|coal oil|fuel oil|heating oil|gear oil|machine oil|two stroke oil|"
            "lighter fluid|motor oil|engine oil|used oil|used engine oil|acetone|lamp oil|"
            "white gas|paint thinner|paint thinners|white spirits|turps|"
            "mineral spirits|mineral spirit|nail polish remover|"
            "nail varnish remover|brake fluid|creosote|wood preservative|wd|"
            "contact cleaner|dry cleaning fluid|brake cleaner|methanol|wood alcohol|"
            "windscreen washer|screenwash|hairspray|hair spray|charcoal lighter",
            T.NO_REMEDY, T.FLAMMABLE),
    # Powders that dissolve or are dusted.
    _powder("baking_soda", "baking soda|bicarbonate of soda|bicarb of soda|bicarb soda|bicarb|"
            "bicarbonate|sodium bicarbonate|sodium hydrogen carbonate|soda|bread soda|nahco3|"
            "cooking soda", T.CARBONATE, T.SODIUM, T.DUST, density="0.9"),
    _powder("baking_powder", "baking powder|raising powder", T.CARBONATE, T.SODIUM, T.DUST,
            T.BAKING_POWDER, density="0.9"),
    _powder("lye", "lye|caustic soda|sodium hydroxide|caustic potash|potassium hydroxide|"
            "soda lye|drain opener", T.CAUSTIC, density="1"),
    _powder("washing_soda", "washing soda|soda crystals|sodium carbonate|soda ash|sal soda",
            T.CARBONATE, T.SODIUM, T.CAUSTIC, T.DUST, density="0.9"),
    _powder("potassium_bicarbonate", "potassium bicarbonate|potassium hydrogen carbonate|"
            "bicarbonate of potash|bicarbonate of potassium|khco3|potassium bicarb|"
            "potassium carbonate", T.CARBONATE, T.DUST, density="0.9"),
    _powder("sulphur", "sulphur|sulfur|wettable sulphur|wettable sulfur|sulphur powder|"
            "sulfur powder|flowers of sulphur|flowers of sulfur|dusting sulphur|dusting sulfur|"
            "micronised sulphur|colloidal sulphur", T.SULPHUR, T.DUST, density="0.6"),
    _liquid("lime_sulphur", "lime sulphur|lime sulfur|calcium polysulphide|calcium polysulfide|"
            "liver of sulphur", T.SULPHUR, T.CAUSTIC, T.SULPHIDE, T.PESTICIDE),
    _powder("copper", "copper|copper sulphate|copper sulfate|copper soap|copper hydroxide|"
            "copper oxychloride|bordeaux mixture|bordeaux|copper octanoate|bluestone|"
            "copper fungicide|liquid copper|copper spray", T.COPPER, T.DUST, density="1"),
    _powder("lime", "lime|garden lime|hydrated lime|slaked lime|quicklime|quick lime|lime powder|"
            "calcium hydroxide|lime wash|builders lime|agricultural lime|chalk",
            T.CAUSTIC, T.DUST, T.CARBONATE, density="0.6"),
    _powder("ash", "ash|ashes|wood ash|wood ashes|charcoal ash", T.CAUSTIC, T.DUST, density="0.5"),
    _powder("borax", "borax|boric acid|sodium borate|boron powder|borate", T.BORAX, density="0.9"),
    _powder("pool_earth", "pool grade diatomaceous earth|filter grade diatomaceous earth|"
            "pool diatomaceous earth|pool filter diatomaceous earth|pool grade earth|pool earth|"
            "filter earth|pool filter earth|pool de|pool grade de|filter grade de|"
            "calcined diatomaceous earth|calcined diatomite|"
            "flux calcined diatomaceous earth|diatomaceous earth for pools|"
            "diatomaceous earth for pool filters|swimming pool diatomaceous earth|"
            "crystalline silica|quartz dust|glass dust|cement|cement dust|plaster of paris|"
            "gypsum plaster|brick dust", T.DUST, T.POOL_EARTH, density="0.3"),
    _powder("dust", "diatomaceous earth|diatomaceous|diatomite|rock dust|rock flour|stone meal|"
            "stone dust|basalt dust|kaolin|kaolin clay|clay|talc|talcum|talcum powder|"
            "silica dust|silica|zeolite|bentonite", T.DUST, density="0.4"),
    _powder("cinnamon", "cinnamon|ground cinnamon|cinnamon powder", T.CINNAMON, T.DUST,
            density="0.5"),
    _powder("spice_dust", "turmeric|turmeric powder|mustard powder|ginger powder|ground ginger",
            T.DUST, density="0.5"),
    _powder("salt", "salt|table salt|sea salt|cooking salt|rock salt|kitchen salt|"
            "sodium chloride", T.SODIUM, T.SALT, density="1.2"),
    _liquid("brine", "brine|sea water|salt water|seawater|pickle juice", T.SODIUM, T.SALT),
    _powder("epsom_salt", "epsom salt|epsom salts|magnesium sulphate|magnesium sulfate",
            density="0.9"),
    _powder("aspirin", "aspirin|aspirins|aspirin tablet|aspirin tablets|salicylic acid|"
            "acetylsalicylic acid|willow powder", density="0.6", piece="0.5"),
    _powder("sugar", "sugar|icing sugar|brown sugar", density="0.85"),
    _powder("flour", "flour|starch|corn starch|cornflour|cornstarch|gelatine|gelatin|yeast|"
            "dry yeast|dried yeast", density="0.6"),
    _powder("milk_powder", "milk powder|powdered milk|skim milk powder|dried milk", density="0.5"),
    _powder("fertiliser", "fertiliser|fertilizer|plant food|potassium silicate|urea|"
            "potassium phosphate|iron sulphate|iron sulfate|ferrous sulphate|iron phosphate",
            density="0.9"),
    # Living and bought things.
    _powder("bacillus", "bacillus|bacillus thuringiensis|bt|btk|bti|bacillus subtilis|"
            "bacterial spray|bacterial powder|soil bacterium|mosquito dunk|mosquito bits",
            T.BACTERIA, density="0.5"),
    _liquid("spinosad", "spinosad|spinosyn|spinetoram", T.SPINOSAD, T.PESTICIDE),
    _liquid("pyrethrin", "pyrethrin|pyrethrins|pyrethrum|pyrethroid|pyrethroids|permethrin|"
            "natural pyrethrum|pyrethrum concentrate|chrysanthemum extract|"
            "chrysanthemum flowers|dried chrysanthemum flowers|pyrethrum daisies|"
            "pyrethrum powder|fly spray|ant spray|"
            "ant powder|flea spray|wasp spray|roach spray|bug bomb",
            T.PYRETHRIN, T.PESTICIDE),
    _liquid("plug_in", "plug in insecticide|plug ins|plug in vapours|plug in vapour|"
            "plug in vaporiser|plug in vaporizer|"
            "mosquito plug in|mosquito coil|mosquito coils|insect strip|fly strip|vapour strip|"
            "vapona|fumigant|smoke bomb|fogger|mosquito mat",
            T.PYRETHRIN, T.PESTICIDE, T.VAPOUR),
    _liquid("pesticide", "pesticide|insecticide|bug spray|bug killer|insect killer|fungicide|"
            "miticide|acaricide|slug pellets|slug bait|systemic insecticide|neonicotinoid|"
            "neonicotinoids|organophosphate|rose spray|plant protection product|"
            "crop protection product", T.PESTICIDE),
    _liquid("poison", "antifreeze|mothball|mothballs|moth balls|moth ball|"
            "disinfectant|wc cleaner|limescale remover|descaler|rust remover|"
            "floor cleaner|drain cleaner|oven cleaner|window cleaner|"
            "glass cleaner|bathroom cleaner|all purpose cleaner|household cleaner|insect repellent|"
            "sulphur candle|sulfur candle|mosquito repellent|deet|toilet block|air freshener|"
            "wood glue|wall paint|"
            "ethylene glycol|"
            "rat poison|mouse poison|rodenticide|weedkiller|weed killer|herbicide|moss killer|"
            "formaldehyde|formalin|iodine|mercury|phosphorus",
            T.NO_REMEDY),
    _liquid("milk", "milk|whole milk|skimmed milk|skim milk|semi skimmed milk|raw milk|cow milk|"
            "cows milk|buttermilk|whey|goat milk|full fat milk|fresh milk|low fat milk|yoghurt|"
            "yogurt|kefir|full cream milk|uht milk"),
    _liquid("sweet", "molasses|honey|syrup|glycerine|glycerin|treacle"),
    _liquid("seaweed", "seaweed|seaweed extract|kelp|kelp extract|liquid seaweed|fish emulsion|"
            "compost tea|worm tea|humic acid|aloe|aloe vera|aloe juice"),
    _liquid("drink", "cold coffee|black coffee|brewed coffee|cup of coffee|"
            "cold tea|cold black tea"),
    _liquid("spreader", "spreader|sticker|wetter|wetting agent|spreader sticker|adjuvant|"
            "surfactant|yucca", T.SOAPY),
    # Things that are steeped, boiled or soaked.
    _solid("poison_plant", "rhubarb leaves|rhubarb leaf|foxglove|oleander|yew|hemlock|aconite|"
           "nightshade|potato leaves|delphinium|castor beans|monkshood|larkspur|"
           "foxglove leaves|oleander leaves|yew needles|lily of the valley|thornapple|datura|"
           "jimsonweed|angels trumpet|autumn crocus|laburnum|wolfsbane|spurge|euphorbia|henbane|"
           "belladonna|mistletoe|daffodil bulbs|hellebore|cherry laurel leaves|"
           "laurel leaves|ricin|castor bean|castor seeds|privet|giant hogweed|hemlock leaves|"
           "death cap|fly agaric|bitter almond|bitter almonds|apricot kernels|"
           "peach kernels|cherry stones|cassava|manioc|hogweed|castor meal|castor cake|"
           "derris|rotenone|strychnine|arsenic|paris green", T.POISON,
           piece="3"),
    _solid("tobacco", "tobacco|nicotine|cigarette|cigarettes|cigarette butts|cigarette butt|"
           "cigar|cigars|snuff|tobacco dust|tobacco leaves|pipe tobacco|tobacco juice|fag ends|"
           "snus|vape liquid|vape juice|e liquid",
           T.NICOTINE, piece="1"),
    _solid("garlic", "garlic|garlic cloves|garlic clove|cloves of garlic|clove of garlic|"
           "crushed garlic|chopped garlic|minced garlic|fresh garlic|garlic powder|"
           "garlic juice|garlic paste", T.PEPPER, piece="5"),
    _solid("garlic_bulb", "garlic bulb|garlic bulbs|bulbs of garlic|bulb of garlic|"
           "heads of garlic|head of garlic|garlic head|garlic heads", T.PEPPER, piece="50"),
    _solid("onion", "onion|onions|onion skins|onion peel|shallots|leeks|chives", T.PEPPER,
           piece="100"),
    _solid("pepper", "pepper|hot pepper|hot peppers|chilli|chili|chile|chillies|chilies|chilis|"
           "chillis|chilli powder|chili powder|cayenne|cayenne pepper|pepper flakes|"
           "hot pepper flakes|chilli flakes|red pepper|jalapeno|jalapenos|habanero|habaneros|"
           "capsaicin|black pepper|chilli pepper|chili pepper|chilli peppers|"
           "chili peppers|pepper powder|paprika|hot chillies|hot chilli|hot chili", T.PEPPER,
           piece="5"),
    _liquid("pepper_sauce", "hot sauce|pepper sauce|hot pepper sauce|chilli sauce|chili sauce|"
            "chile sauce|cayenne sauce", T.PEPPER),
    _solid("plant_matter", "nettle|nettles|stinging nettle|stinging nettles|nettle leaves|"
           "horsetail|horse tail|field horsetail|tansy|wormwood|comfrey|chamomile|camomile|"
           "yarrow|elder leaves|elderberry leaves|fern|bracken|ferns|marigold|marigolds|"
           "tomato leaves|tomato leaf|"
           "basil|mint|rosemary|thyme|sage|lavender|eucalyptus leaves|bay leaves|mint leaves|"
           "basil leaves|rosemary leaves|coriander|dill|ginger|lemongrass|herbs|leaves|bark|"
           "citrus peel|orange peel|lemon peel|orange peels|lemon peels|banana peel|"
           "banana peels|horseradish|moringa leaves|papaya leaves|willow|willow twigs|"
           "coffee|coffee grounds|tea|tea leaves|green tea|black tea|tea bags|tea bag|"
           "walnut leaves|quassia|quassia chips|dandelion|rhubarb|cloves|seeds|soap nuts|"
           "soap nut|soapnut|"
           "soapnuts|aloe leaves|compost|peel|peels|turmeric root|ivy|sorrel|burdock",
           piece="3"),
)  # fmt: skip

# What nobody listed, by the kind that its chemical name tells; each is one word.
_KINDS: tuple[tuple[re.Pattern[str], Substance], ...] = tuple(
    (re.compile(pattern), _made(form, key, key, *traits))
    for pattern, form, key, traits in (
        (r"cyanides?$|^cyan(ogen|amide)$", Form.POWDER, "cyanide", (T.CYANIDE, T.NO_REMEDY)),
        (r"(phosphid|azid|selenid|tellurid)es?$", Form.POWDER, "phosphide",
         (T.CYANIDE, T.NO_REMEDY)),
        (r"sul(ph|f)ides?$", Form.POWDER, "sulphide", (T.SULPHIDE,)),
        (r"sul(ph|f)ites?$|dithionites?$|thiosul(ph|f)ates?$", Form.POWDER, "sulphite",
         (T.SULPHITE,)),
        (r"^arsen|^mercur|^thallium$|^strychn|^nicotin|^barium$|^hydrofluoric$|fluorides?$|"
         r"fluorosilicates?$|^(ddt|lindane|endosulfan|chlordane|dieldrin|aldrin|warfarin)$",
         Form.POWDER, "heavy_poison",
         (T.POISON,)),
        (r"chlorates?$|chlorites?$|carbides?$|hypobromites?$|nitrites?$|permanganates?$|"
         r"dichromates?$",
         Form.POWDER, "oxidiser", (T.NO_REMEDY,)),
        (r"^ammonium$", Form.POWDER, "ammonium_salt", (T.AMMONIA,)),
        (r"hydroxides?$|^caustic$|^alkali$", Form.POWDER, "caustic", (T.CAUSTIC,)),
        (r"(benzene|toluene|xylenes?|naphthalene|chloroform|chloride?thylene|chloroethylene|"
         r"hexane|heptane|pentane|naphtha|styrene|cresols?|phenols?|aniline|pyridine|"
         r"chloromethane|tetrachloride)$|^solvents?$|^ether$|^bioethanol$|^firelighters?$|"
         r"^(hydraulic|transmission|windscreen|windshield)$", Form.LIQUID, "solvent",
         (T.NO_REMEDY, T.FLAMMABLE)),
        (r".{3}(thrins?|cloprid|thiamethoxam|amiprid|fos|phos|thions?|mectins?|"
         r"conazoles?|strobin|carb|furan|diamide|tetramat|mesifen|ronil)$|^carbaryl$|"
         r"^malathion$|^dimethoate$|^metaldehyde$|^mancozeb$|^captan$|^chlorothalonil$",
         Form.LIQUID, "pesticide_by_name", (T.PESTICIDE,)),
        (r"^glyphosate$|^paraquat$|^diquat$|^dicamba$", Form.LIQUID, "weedkiller",
         (T.NO_REMEDY,)),
    )
)  # fmt: skip


def of_kind(word: str) -> Substance | None:
    """Return what a chemical name that nobody listed stands for, by its ending."""
    return next((one for pattern, one in _KINDS if pattern.search(word)), None)
