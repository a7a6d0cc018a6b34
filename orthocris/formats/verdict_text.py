"""A verdict as plain text for the terminal."""

from __future__ import annotations

from orthocris.core.trial.measures import Measure, measure_named
from orthocris.core.verdict.result import RemedyResult, Verdict
from orthocris.core.verdict.words import change, percent
from orthocris.core.words import many


def verdict_text(verdict: Verdict) -> str:
    """Return the sentence, the remedies in rank order, the warnings and the advice."""
    width = max(len(r.name) for r in verdict.remedies)
    rows = [_row(r, width, measure_named(verdict.measure)) for r in verdict.remedies]
    warnings = [f"! {w.text}" for w in verdict.warnings]
    said = [text for text in (verdict.advice, verdict.if_today) if text]
    return "\n".join([verdict.sentence, "", *rows, "", *warnings, *said])


def _row(r: RemedyResult, width: int, measure: Measure) -> str:
    after = "" if r.mean_after is None else f"{r.mean_after:.1f} after"
    before = "" if r.mean_before is None else f", {r.mean_before:.1f} before"
    if r.role == "control":
        effect = "the control"
    elif r.efficacy is None:
        effect = "no efficacy" if r.rate_ratio is None else f"{r.rate_ratio:.1f} times the first"
    elif r.efficacy_low is None or r.efficacy_high is None:
        effect = f"{change(r.efficacy, measure)}, no interval"
    else:
        span = f"({percent(r.efficacy_low)} to {percent(r.efficacy_high)})"
        effect = f"{change(r.efficacy, measure)} {span}"
    marks = ", harms the plant" if r.vetoed else ", could be best" if r.could_be_best else ""
    return f"  {r.name:{width}s}  {effect}{marks}; {after}{before}, {many(r.plants, 'plant')}"
