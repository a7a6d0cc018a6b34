"""Two pests on the same plants: what to do where the two verdicts do not say the same."""

from __future__ import annotations

from collections.abc import Iterable

from orthocris.core.verdict.result import RemedyResult, Verdict


def both_words(first: Verdict, second: Verdict, pests: tuple[str, str]) -> str:
    """Return one sentence for what to take against two pests together; empty while it is so far.

    Each verdict answers for its own pest, with its own 5 of 100. Together nothing more is claimed:
    what works on both is what each shows to.
    """
    if first.so_far or second.so_far:
        return ""
    one, other = first.recommended, second.recommended
    if one and one == other:
        return f"Against both, take {one}."
    works = {r.name: r for r in first.remedies if _works(r)}
    also = {r.name: r for r in second.remedies if _works(r)}
    common = [name for name in works if name in also]
    for taken, better, pest in ((one, other, pests[1]), (other, one, pests[0])):
        if taken in common:
            more = f"; against {pest} alone {better} is the better one" if better else ""
            return f"Against both, take {taken}: it is shown to work on each{more}."
    if common:
        least = {name: min(_removed(works[name]), _removed(also[name])) for name in common}
        return (
            f"Against both, take {max(least, key=lambda name: least[name])}: it is shown to work "
            "on each, though on neither as the best."
        )
    one, other = one or _best(works.values()), other or _best(also.values())
    if one and other:
        return (
            f"Nothing here is shown to work on both: {one} for {pests[0]}, {other} for {pests[1]}, "
            "one after the other and not in one bottle. What speaks against the second so soon is "
            "told when its round is begun."
        )
    if one or other:
        settled, left = (pests[0], pests[1]) if one else (pests[1], pests[0])
        return f"{one or other} is for {settled}; against {left} nothing here is shown to work."
    return "Nothing here is shown to be what to take against either."


def _works(result: RemedyResult) -> bool:
    return result.beats_control and not result.vetoed and not result.worse_than_control


def _best(works: Iterable[RemedyResult]) -> str | None:
    found = max(works, key=_removed, default=None)
    return None if found is None else found.name


def _removed(result: RemedyResult) -> float:
    return -1.0 if result.efficacy is None else result.efficacy
