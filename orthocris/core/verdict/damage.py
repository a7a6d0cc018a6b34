"""What a remedy costs the plant: leaf damage beyond the control's and beyond its own before."""

from __future__ import annotations

from orthocris.core.verdict.gathering import Gathered, latest_before

# One whole step of the 0-5 scale. Burnt leaves are not waited for until they are proven: a
# remedy is struck out at this mean, while its benefit has to be proven.
VETO_STEPS = 1.0


def damage_beyond_control(gathered: Gathered, control: str | None) -> dict[str, float | None]:
    """Return each remedy's mean rise in leaf damage beyond the control's.

    Parameters
    ----------
    gathered:
        All that was counted; only `damage` (0 to 5) is used.
    control:
        The control's name, or None: then the rise beyond its own before alone.

    Returns
    -------
    Steps of the 0-5 scale for every remedy, None where it (or the control) was not scored
    after the first spray. A plant's damage after is the worst of its looks, for burn shows
    late and burnt leaves drop; its damage before is 0 when it was not scored.
    """
    rises: dict[str, list[float]] = {remedy: [] for remedy in gathered.remedies}
    for plant, by_day in gathered.of("damage").items():
        after = [sample.value for day, sample in by_day.items() if day > 0]
        if after:
            before = latest_before(by_day)
            rises[gathered.homes[plant].remedy].append(
                max(after) - (before.value if before else 0.0)
            )
    means = {name: sum(found) / len(found) if found else None for name, found in rises.items()}
    base = 0.0 if control is None else means.get(control)
    return {
        name: None if mean is None or base is None else mean - base for name, mean in means.items()
    }


def harms_plant(beyond: float | None) -> bool:
    """Tell whether this much damage beyond the control's strikes a remedy out."""
    return beyond is not None and beyond >= VETO_STEPS - 1e-9
