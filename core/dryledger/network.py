"""The activity network as integers: topological order and loops.

Source: the precedence diagram of the critical path method; the order is Kahn's.
"""

from collections.abc import Sequence

__all__ = ["find_loop", "topological_order"]


def topological_order(count: int, edges: Sequence[tuple[int, int]]) -> list[int]:
    """Indices 0…count−1 so that every edge goes forward; those on or behind a loop are left out.

    >>> topological_order(3, [(2, 0), (0, 1)])
    [2, 0, 1]
    """
    out: list[list[int]] = [[] for _ in range(count)]
    waiting = [0] * count
    for a, b in edges:
        out[a].append(b)
        waiting[b] += 1
    order = [i for i in range(count) if not waiting[i]]
    for i in order:
        for j in out[i]:
            waiting[j] -= 1
            if not waiting[j]:
                order.append(j)
    return order


def find_loop(codes: Sequence[str], edges: Sequence[tuple[str | None, str]]) -> list[str] | None:
    """The codes of one loop in their order, or None.

    >>> find_loop(["A", "B", "C"], [("A", "B"), ("B", "C"), ("C", "B")])
    ['B', 'C']
    """
    index = {code: i for i, code in enumerate(codes)}
    pairs = [(index[a], index[b]) for a, b in edges if a is not None]
    left = set(range(len(codes))) - set(topological_order(len(codes), pairs))
    if not left:
        return None
    back: dict[int, int] = {}
    for a, b in pairs:
        if a in left and b in left:
            back.setdefault(b, a)
    at, walked = min(left), list[int]()
    while at not in walked:
        walked.append(at)
        at = back[at]
    loop = walked[walked.index(at) :][::-1]
    first = loop.index(min(loop))
    return [codes[i] for i in loop[first:] + loop[:first]]
