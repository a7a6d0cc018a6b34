"""What a plan takes before it is kept: bottles and money, and what cannot be told."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.costs import Price
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.question import RemedyDraft
from orthocris.services.planning.taking import taking
from orthocris.services.weather import yards
from tests.services.world import ServiceCase

SOAP = RemedyDraft("Soap", Role.REMEDY, "10 ml soap in 1 litre of water")
OIL = RemedyDraft("Oil", Role.REMEDY, "10 ml sunflower oil and 2 ml soap in 1 litre")


class Takes(ServiceCase):
    def test_bottles_and_money_of_all_rounds(self) -> None:
        prices = [
            Price("soap", Fraction(1000), Fraction(10)),
            Price("yeast", Fraction(7), Fraction(1)),
        ]
        yards.change_prices(self.context, prices)
        found = taking(self.context, [SOAP], plants=10, ml=50, times=3)
        # Half a litre with what stays in the bottle: some 5 to 6 ml of soap at a cent, three times.
        own = replace(SOAP, traits=Traits(dose=10.0, dose_unit="ml"))
        small = taking(self.context, [own], plants=10, ml=50, times=3)
        self.assertLess(small.cost or 1.0, found.cost or 0.0)
        assert found.cost is not None and found.bottle is not None
        self.assertTrue(0.15 <= found.cost <= 0.4, found.cost)
        self.assertGreaterEqual(found.bottle, 500)
        self.assertEqual((found.fills, found.unpriced, found.unread), (1, (), ()))
        both = taking(self.context, [SOAP, OIL], plants=10, ml=50, times=3)
        assert both.cost is not None
        self.assertTrue(found.cost < both.cost < 2 * found.cost)
        self.assertEqual(both.unpriced, ("sunflower oil",))

    def test_what_is_not_mixed_takes_no_bottle_and_what_has_no_price_is_not_told(self) -> None:
        jet = RemedyDraft("Jet", Role.REMEDY, "A hard jet of water", traits=Traits(way="jet"))
        dab = replace(SOAP, traits=Traits(way="dab"))  # used as it is in its bottle
        none = taking(self.context, [jet, dab], plants=10, ml=50, times=3)
        self.assertEqual((none.bottle, none.cost, none.unread), (None, None, ()))
        bare = taking(self.context, [SOAP], plants=200, ml=100, times=1)
        self.assertEqual((bare.cost, bare.unpriced), (None, ("soap",)))
        self.assertGreater(bare.fills, 1)  # 20 litres for the bottles of a shed
