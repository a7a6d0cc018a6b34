"""Draw what `python -m bench.calibration` printed.

Run: .venv/bin/python -m bench.calibration > table.txt, then
.venv/bin/python -m bench.calibration.picture table.txt docs/calibration.svg.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterator
from pathlib import Path

from bench.calibration.promises import NAME_WIDTH

INK, SOFT, GRID, ONE, OTHER = "#1d1326", "#5c5566", "#d8d3de", "#1c5aa3", "#9a4700"
SIDE = 260
LEAST = 0.8  # the left end of the coverages


def main() -> None:
    """Read the table and write the picture."""
    lines = Path(sys.argv[1]).read_text().splitlines()
    parts = [*_tenths(lines), *_coverages(lines)]
    Path(sys.argv[2]).write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 760 {SIDE + 90}" '
        'font-family="sans-serif" font-size="12" role="img" aria-label="Chances that were said '
        'against what came true, and how often intervals hold the truth">'
        f'<rect width="760" height="{SIDE + 90}" fill="#fff"/>{"".join(parts)}</svg>\n'
    )


def _text(x: float, y: float, said: str, *, colour: str = SOFT, anchor: str = "start") -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" fill="{colour}" text-anchor="{anchor}">{said}</text>'


def _tenths(lines: list[str]) -> Iterator[str]:
    """Said against true, a dot for each tenth: on the slanted line a chance is what it says."""
    left, top = 50, 30
    yield _text(left, 18, "Chances said, and what came true", colour=INK)
    yield f'<g stroke="{GRID}">'
    for k in range(11):
        at = k * SIDE / 10
        yield f'<path d="M{left} {top + at}h{SIDE}M{left + at} {top}v{SIDE}"/>'
    yield f'<path stroke="{SOFT}" d="M{left} {top + SIDE}L{left + SIDE} {top}"/></g>'
    for what, colour, at in (("best", ONE, 1), ("worth", OTHER, 2)):
        for world, fill in (("", colour), (", truths in logs", "none")):
            line = next(one for one in lines if one.startswith(f"chance of {what}{world}:"))
            for said, true in re.findall(r"(\d\.\d+)→(\d\.\d+)", line):
                x, y = left + float(said) * SIDE, top + (1 - float(true)) * SIDE
                yield f'<circle cx="{x:.1f}" cy="{y:.1f}" r="4.5" stroke="{colour}" fill="{fill}"/>'
        words = "chance of being best" if what == "best" else "chance of being worth it"
        y = top + SIDE + 18 + 16 * at
        yield f'<circle cx="{left + 6}" cy="{y - 4}" r="5" fill="{colour}"/>'
        yield _text(left + 18, y, words, colour=INK)
    yield _text(left + 190, top + SIDE + 50, "rings: truths even in logs")
    yield _text(left, top + SIDE + 15, "0 said")
    yield _text(left + SIDE, top + SIDE + 15, "1 said", anchor="end")


def _coverages(lines: list[str]) -> Iterator[str]:
    """Each garden's least and greatest share of intervals that hold the truth, in order."""
    left, top, width = 400, 30, 330
    yield _text(left, 18, "How often 95% intervals hold, one line a garden", colour=INK)
    found = sorted(_held(lines))

    def x(share: float) -> float:
        return left + (max(share, LEAST) - LEAST) / (1 - LEAST) * width

    for share in (0.8, 0.85, 0.9, 0.93, 0.95, 0.98, 1.0):
        colour = SOFT if share == 0.95 else GRID
        yield f'<path stroke="{colour}" d="M{x(share):.1f} {top}v{SIDE}"/>'
        yield _text(x(share), top + SIDE + 15, f"{share:g}", anchor="middle")
    step = SIDE / max(len(found), 1)
    for k, (low, high) in enumerate(found):
        y = top + (k + 0.5) * step
        end = max(x(high), x(low) + 2)
        yield f'<path stroke="{ONE}" stroke-width="2" d="M{x(low):.1f} {y:.1f}H{end:.1f}"/>'
    yield _text(left, top + SIDE + 34, "from the remedy that is held least to the one held most")


def _held(lines: list[str]) -> Iterator[tuple[float, float]]:
    for line in lines[1:]:
        numbers = re.findall(r"\d\.\d{3}", line[NAME_WIDTH:])
        if not line.startswith("chance of") and len(numbers) > 2:
            yield float(numbers[0]), float(numbers[1])


if __name__ == "__main__":
    main()
