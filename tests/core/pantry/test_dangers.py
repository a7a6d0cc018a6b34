"""Dangers and cautions by what a thing is, however it is written."""

from __future__ import annotations

import unittest

from orthocris.core.errors import InputError
from orthocris.core.pantry.cautions import cautions_for, strong_cautions_for
from orthocris.core.pantry.dangers import check_dangers
from orthocris.core.pantry.recipe.reading import understand
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.substances import classify
from orthocris.knowledge import cautions


def checked(text: str, *, near_flame: bool = False) -> None:
    """Check a recipe as it is said."""
    check_dangers(understand(text).parts, said=text, near_flame=near_flame)


class Dangers(unittest.TestCase):
    def test_each_danger_is_named(self) -> None:
        for text, said in (
            ("10 ml bleach and 10 ml soap in 1 litre", "poisonous gas"),
            ("5 ml sodium hypochlorite in 1 l, a little soap", "poisonous gas"),
            ("10 ml bleach, 10 ml household ammonia, 1 l water", "chloramine"),
            ("50 ml 3% peroxide and 50 ml cider vinegar in 1 l", "peracetic"),
            ("a tsp of bicarb and a cup of vinegar in a gallon", "bursts"),
            ("1 oz washing soda, 2 tbsp lemon juice, 1 quart water", "bursts"),
            ("1 tsp potassium bicarbonate and 1 tsp citric acid per litre", "bursts"),
            ("3 g wettable sulfur and 10 ml rapeseed oil per litre", "four weeks"),
            ("5 ml neem and a spoon of lime sulphur in 1 l", "four weeks"),
            ("20 g tobacco steeped in 1 litre of water", "poison people"),
            ("10 cigarette butts soaked in 1 l overnight", "poison people"),
            ("20 ml kerosene and 10 ml soap in 1 litre", "burn"),
            ("10 ml lamp oil in 1 litre", "no remedy"),
            ("20 ml of perfluorotoluene in 1 litre", "no remedy"),
            ("a mothball in 1 litre of water", "no remedy"),
            ("5 g calcium carbide in 1 litre", "no remedy"),
            ("5 ml hydraulic fluid in 1 litre", "no remedy"),
            ("10 ml firelighter fluid in 1 litre", "no remedy"),
            ("1 ml hydrofluoric acid in 1 litre", "poison"),
            ("a sulphur candle below the bench", "no remedy"),
            ("5 ml vape liquid in 1 litre", "poison people"),
            ("2 dishwasher tablets in 5 litres", "no remedy"),
            ("10 ml laundry detergent per litre", "no remedy"),
            ("5 ml weedkiller in a litre", "no remedy"),
            ("10 ml bleach per litre", "no remedy"),
            ("10 ml household ammonia per litre", "no remedy"),
            ("5 g smelling salts in 1 litre", "no remedy"),
            ("10 g ammonium sulphate and 5 g lime in 1 litre", "burns eyes"),
            ("5 ml bleach and 2 g ammonium nitrate in 1 litre", "chloramine"),
            ("5 g sodium sulfide and 10 ml vinegar per litre", "hydrogen sulphide"),
            ("10 ml lime sulphur and the juice of a lemon in 1 l", "hydrogen sulphide"),
            ("2 g calcium polysulphide, 5 g citric acid, 1 l", "hydrogen sulphide"),
            ("1 g potassium metabisulphite, 10 ml vinegar, 1 l", "sulphur dioxide"),
            ("1 g potassium ferrocyanide in 1 litre", "gas that kills"),
            ("aluminium phosphide, 1 g in 1 litre", "gas that kills"),
            ("10 g sal ammoniac and 5 g lime in 1 litre", "ammonia"),
            ("10 g caustic soda and 20 ml muriatic acid in 1 l", "boil and spit"),
            ("2 g copper hydroxide and 20 ml vinegar in 1 l", "dissolves copper"),
            ("50 g foxglove leaves steeped in 1 l", "poison"),
            ("10 g derris powder in 1 litre", "poison"),
            ("a pinch of lead arsenate in 1 litre", "poison"),
            ("10 g pool grade diatomaceous earth in 1 litre", "lungs"),
            ("500 ml of 12% peroxide in 1 litre", "about 1% is the most"),
            ("undiluted 6% hydrogen peroxide", "about 1% is the most"),
            ("3% hydrogen peroxide, undiluted, on the leaves", "about 1% is the most"),
            ("6% peroxide undiluted on bare roots", "3% is the very most"),
            ("10 ml 35% hydrogen peroxide in 1 litre", "no home material"),
            ("500 ml 3% peroxide in 1 litre, poured on the soil", "kills roots"),
        ):
            with self.subTest(text), self.assertRaisesRegex(InputError, said) as caught:
                checked(text)
            self.assertEqual(caught.exception.code, "dangerous")
        with self.assertRaisesRegex(InputError, "flame"):
            checked("150 ml surgical spirit in 1 litre", near_flame=True)

    def test_what_is_sound_is_not_refused(self) -> None:
        for text in (
            "10 ml soap in 1 litre of chlorine-free water",
            "10 ml soap in 1 litre, never with bleach",
            "10 ml ammonium soap of fatty acids in 1 litre",
            "10 ml ammonia-free soap in 1 litre",
            "3 g sulphur in 1 litre, wait 4 weeks after oil",
            "10 ml vinegar in 1 litre (not within 2 days of soda)",
            "5 g baking soda and 5 ml oil and 1 ml soap in 1 litre, no vinegar",
            "3% peroxide thinned to 1%, on the soil",
            "150 ml of 70% alcohol in 1 litre",
            "boiled leaves: 100 g boiled in 1 l water",
            "2 g copper sulphate and 2 ml oil in 1 litre",
            "333 ml 3% peroxide in 1 litre",
            "3% peroxide, neat, on bare roots",
            "10 ml lime sulphur in 1 litre",
            "10 ml dish soap for hand washing in 1 litre",
            "paint it on with 100 ml milk in 1 litre",
        ):
            with self.subTest(text):
                checked(text)

    def test_strong_cautions_stand_where_the_danger_is(self) -> None:
        for text, wanted in (
            ("2 g copper soap per litre", {"copper", "dust_mask"}),
            ("5 ml pyrethrum in 1 l", {"pyrethrins", "pesticide"}),
            ("5 ml deltamethrin in 1 l", {"pesticide"}),
            ("2 ml spinosad in 1 l", {"spinosad", "pesticide"}),
            ("5 g lye in 1 l", {"caustic"}),
            ("5 ml sulphuric acid in 1 l", {"strong_acid"}),
            ("5 g table salt in 1 l", {"salt"}),
            ("plug-in vapour in the room", {"vapour", "pyrethrins", "pesticide"}),
            ("1 g borax per litre", {"borax"}),
            ("1 ml orange oil and 2 ml soap in 1 l", {"essential_oils", "citrus"}),
            ("1 ml cinnamon oil, 2 ml soap, 1 l water", {"essential_oils", "cinnamon"}),
            ("50 g wood ash in 1 l", {"caustic", "dust_mask"}),
            ("rock dust, 10 g in 1 litre", {"dust_mask"}),
            ("boil 50 g nettles in 1 l", {"hot_brew"}),
            ("100 ml of 99% alcohol in 1 litre", {"alcohol", "strong_alcohol"}),
            ("100 ml of 70% alcohol in 1 litre", {"alcohol"}),
            ("10 ml mild soap in 1 litre of chlorine-free water", set()),
        ):
            with self.subTest(text):
                found = strong_cautions_for(text, cautions())
                self.assertEqual({c.key for c in found}, wanted)

    def test_peroxide_said_without_water_is_used_as_it_comes(self) -> None:
        for text in ("1 litre 3% hydrogen peroxide", "peroxide 3 %", "6% peroxide"):
            with self.subTest(text), self.assertRaisesRegex(InputError, "about 1% is the most"):
                check_dangers((), said=text)
        for text in ("1 part 3% peroxide to 5 parts water", "peroxide 1%", "peroxide"):
            with self.subTest(text):
                check_dangers((), said=text)

    def test_what_undoes_the_other_is_said(self) -> None:
        for text, said in (
            ("10 ml soap and 5 ml vinegar per litre", "splits soap"),
            ("1 g bt and 5 g baking soda per litre", "kill the bacteria"),
            ("1 g bacillus subtilis and 2 g copper per litre", "kill the bacteria"),
            ("1 tsp baking powder per litre", "not baking soda"),
            ("1 ml lavender oil and 2 ml soap per litre", "cats and dogs"),
        ):
            with self.subTest(text):
                self.assertIn(said, " ".join(cautions_for(text, cautions())))
        self.assertNotIn("splits", " ".join(cautions_for("10 ml soap per litre", cautions())))

    def test_potassium_leaves_no_sodium(self) -> None:
        self.assertNotIn(
            "sodium", " ".join(cautions_for("5 g potassium bicarbonate/l", cautions()))
        )
        self.assertIn("sodium", " ".join(cautions_for("5 g bicarbonate of soda/l", cautions())))


class OneClassifier(unittest.TestCase):
    def test_a_thing_is_itself_however_it_is_written(self) -> None:
        for names, key in (
            (
                ("washing-up liquid", "washing up liquid", "Dish soap", "DISHWASHING LIQUID"),
                "detergent",
            ),
            (("castile soap", "mild liquid soap", "neem soap"), "soap"),
            (("oil", "cold-pressed rapeseed oil", "oil as sticker"), "oil"),
            (("paraffin oil", "summer-weight horticultural oil"), "mineral_oil"),
            (("bicarb", "Baking Soda", "sodium bicarbonate"), "baking_soda"),
            (("baking powder",), "baking_powder"),
            (("caustic soda",), "lye"),
            (("dishwasher detergent", "laundry detergent"), "machine_detergent"),
            (("potassium bicarbonate",), "potassium_bicarbonate"),
            (("tea tree oil", "rosemary oil"), "essential_oil"),
            (("boiled leaves", "tea leaves"), "plant_matter"),
            (("copper sulphate",), "copper"),
        ):
            for name in names:
                with self.subTest(name):
                    found = classify(name)
                    self.assertEqual(found.key if found else None, key)
        self.assertIsNone(classify("soil of the foiled coil"))

    def test_what_is_said_not_to_be_there_is_not_there(self) -> None:
        for text in (
            *("chlorine-free water", "without any soap", "no oil", "instead of vinegar"),
            *("never within four weeks of oil or near bleach", "wait 4 weeks after oil"),
            *(
                "rather than 5 ml bleach",
                "no vinegar, bleach or soda",
                "(not within 2 days of oil)",
            ),
            *("not with 5 ml bleach", "keep four weeks away from oil", "neither oil nor soap"),
        ):
            with self.subTest(text):
                self.assertEqual(substances_there(text), ())
        for text in (
            *("no more than 5 ml bleach", "never oil, bleach", "not oil but bleach"),
            *("never without bleach", "don't forget the bleach", "(oil-free bleach)"),
            *("no oil or use 5 ml bleach", "[bleach]", "oil? No. 5 ml bleach"),
        ):
            with self.subTest(text):
                self.assertIn("bleach", [one.key for one in substances_there(text)])


if __name__ == "__main__":
    unittest.main()
