"""Stretches of time as (start, end) pairs in seconds, and their algebra."""

from collections.abc import Sequence

Span = tuple[float, float]


def merge(spans: Sequence[Span]) -> list[Span]:
    """The union of the spans, in order, none touching the next."""
    merged: list[Span] = []
    for start, end in sorted(spans):
        if merged and start <= merged[-1][1]:
            merged[-1] = (merged[-1][0], max(end, merged[-1][1]))
        else:
            merged.append((start, end))
    return merged


def intersect(spans: Sequence[Span], others: Sequence[Span]) -> list[Span]:
    """What lies in both. Each argument is in order, its spans apart; empty stretches are dropped."""
    common: list[Span] = []
    n = m = 0
    while n < len(spans) and m < len(others):
        start, end = max(spans[n][0], others[m][0]), min(spans[n][1], others[m][1])
        if start < end:
            common.append((start, end))
        if spans[n][1] <= others[m][1]:
            n += 1
        else:
            m += 1
    return common


def subtract(spans: Sequence[Span], holes: Sequence[Span]) -> list[Span]:
    """What is left of ``spans`` without ``holes``. Each argument is in order, its spans apart."""
    edges = [(float("-inf"), holes[0][0])] if holes else [(float("-inf"), float("inf"))]
    edges += [(holes[n][1], holes[n + 1][0]) for n in range(len(holes) - 1)]
    if holes:
        edges.append((holes[-1][1], float("inf")))
    return intersect(spans, edges)
