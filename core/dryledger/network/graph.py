"""The activity network as integers: topological order and loops.

Source: the precedence diagram of the critical path method; the order is Kahn's.
"""

from collections.abc import Sequence

from dryledger.network.arrays import Ints

__all__ = ["arrange", "find_loop", "topological_order"]


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
    at, walked = min(left), dict[int, None]()
    while at not in walked:
        walked[at] = None
        at = back[at]
    path = list(walked)
    loop = path[path.index(at) :][::-1]
    first = loop.index(min(loop))
    return [codes[i] for i in loop[first:] + loop[:first]]


def arrange(count: int, source: Ints, target: Ints, order: Ints, in_first: Ints, in_links: Ints, out_first: Ints, out_links: Ints) -> int:
    """Fill the links by activity and the topological order (Kahn's); gives how many activities it holds.

    `in_first` and `out_first` come in with count + 2 zeros and are left with one element to spare.
    """
    for k in range(len(source)):
        in_first[target[k] + 2] += 1
        out_first[source[k] + 2] += 1
    for i in range(count):
        in_first[i + 2] += in_first[i + 1]
        out_first[i + 2] += out_first[i + 1]
    for k in range(len(source)):
        in_links[in_first[target[k] + 1]] = k
        in_first[target[k] + 1] += 1
        out_links[out_first[source[k] + 1]] = k
        out_first[source[k] + 1] += 1
    waiting = [in_first[i + 1] - in_first[i] for i in range(count)]
    done = 0
    for i in range(count):
        if waiting[i] == 0:
            order[done] = i
            done += 1
    at = 0
    while at < done:
        i = order[at]
        at += 1
        for k in range(out_first[i], out_first[i + 1]):
            j = target[out_links[k]]
            waiting[j] -= 1
            if waiting[j] == 0:
                order[done] = j
                done += 1
    return done
