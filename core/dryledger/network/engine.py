"""The passes as they suit the size of a book: plain Python for a small one, machine code for a large one.

Both run the same source. Compiling takes seconds once, then the code is kept beside the source; loading the compiler
takes more than a second in each process, which only a large book repays.
"""

from collections.abc import Callable, Mapping, Sequence
from functools import cache
from types import FunctionType, ModuleType, SimpleNamespace
from typing import Any, cast

from dryledger.network import graph, passes
from dryledger.network.arrays import Ints

__all__ = ["LARGE", "Engine", "compile_all", "engine"]

LARGE = 400
"""Activities from which on a book is computed by compiled passes."""


class Engine:
    """The functions of `passes` and `graph.arrange`, and the arrays that they run over."""

    def __init__(self, functions: SimpleNamespace, array: Callable[[Sequence[int]], Ints], zeros: Callable[[int], Ints]) -> None:
        self.forward: Callable[..., int] = functions.forward
        self.late: Callable[..., None] = functions.late
        self.arrange: Callable[..., int] = functions.arrange
        self.array, self.zeros = array, zeros

    def filled(self, n: int, usual: int, others: Mapping[int, int]) -> Ints:
        """An array of one value but at some places."""
        if isinstance(self.zeros(0), list):
            return [others.get(i, usual) for i in range(n)]
        out: Any = self.zeros(n)
        if usual:
            out += usual
        out[self.array(list(others))] = self.array(list(others.values()))
        return cast(Ints, out)

    def different(self, a: Ints, b: Ints) -> list[int]:
        """The places at which two arrays of one length differ."""
        if isinstance(a, list):
            return [i for i, (x, y) in enumerate(zip(a, b, strict=True)) if x != y]
        return (a != b).nonzero()[0].tolist()

    def extremes(self, values: Ints) -> tuple[int, int]:
        """The least and the greatest value of an array."""
        return (min(values), max(values)) if isinstance(values, list) else (int(values.min()), int(values.max()))

    def listed(self, values: Ints) -> list[int]:
        """An array as a plain list."""
        return values if isinstance(values, list) else values.tolist()


def engine(activities: int) -> Engine:
    """The engine for a book of so many activities."""
    return _compiled() if activities >= LARGE else _interpreted()


@cache
def _interpreted() -> Engine:
    return Engine(SimpleNamespace(forward=passes.forward, late=passes.late, arrange=graph.arrange), list, lambda n: [0] * n)


@cache
def _compiled() -> Engine:
    import numpy as np

    def array(values: Sequence[int]) -> Ints:
        return cast(Ints, np.array(values, np.int64))

    def zeros(n: int) -> Ints:
        return cast(Ints, np.zeros(n, dtype=np.int64))

    names = compile_all(passes, passes.KERNELS) | compile_all(graph, "arrange")
    return Engine(SimpleNamespace(**names), array, zeros)


def compile_all(module: ModuleType, names: str) -> dict[str, object]:
    """Compiled copies of a module's functions, callees first, that call each other's compiled copies; `search` goes by halves in them."""
    import numba

    # The passes allocate nothing. Without numba's own memory management (its reference counts, that is) they take a
    # fifth of the time; the stubs do not know the option.
    compiler = cast("Callable[..., Callable[[FunctionType], object]]", numba.njit)
    space = dict(vars(module)) | {"search": passes.compiled_search}
    for name in ["search", *names.split()]:
        source = space[name]
        space = source.__globals__ | space  # one that comes from another module brings what it reads there
        compile_it = compiler(cache=True, _nrt=name == "arrange")
        space[name] = compile_it(FunctionType(source.__code__, space, source.__name__, source.__defaults__))
    return {name: space[name] for name in names.split()}
