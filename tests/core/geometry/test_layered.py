"""Graphs in columns: each node as many steps from the first as it takes, none on another, and
fewer lines that cross than where they stand in a plain grid."""

import math
import random
from itertools import combinations, pairwise

from hypothesis import given
from hypothesis import strategies as some

from outgrowth.core.geometry.layered import layered


@some.composite
def graphs(draw):
    count = draw(some.integers(1, 14))
    nodes = [f"n{n}" for n in range(count)]
    pair = some.tuples(some.sampled_from(nodes), some.sampled_from(nodes))
    return nodes, draw(some.lists(pair, max_size=30))


def steps(nodes, lines, first):
    found, waiting = {first: 0}, [first]
    while waiting:
        node = waiting.pop(0)
        for a, b in lines:
            if a == node and b not in found:
                found[b] = found[a] + 1
                waiting.append(b)
    return found


@given(graphs())
def test_each_stands_as_many_columns_on_as_steps_lead_there(graph):
    nodes, lines = graph
    laid = layered(nodes, lines, nodes[:1])
    assert set(laid.spots) == set(nodes)
    for node, wanted in steps(nodes, lines, nodes[0]).items():
        assert laid.spots[node].column == wanted
    for a, b in combinations(laid.spots.values(), 2):
        assert a.column != b.column or abs(a.row - b.row) >= 1 - 1e-9
    for (start, end), bends in laid.passing.items():
        columns = [laid.spots[start].column, *(s.column for s in bends), laid.spots[end].column]
        assert all(abs(a - b) == 1 for a, b in pairwise(columns)) or columns[0] == columns[-1]
        for bend in bends:
            for node in nodes:
                spot = laid.spots[node]
                assert spot.column != bend.column or abs(spot.row - bend.row) >= 0.6


@given(graphs())
def test_it_comes_out_the_same_again(graph):
    nodes, lines = graph
    assert layered(nodes, lines, nodes[:1]) == layered(nodes, lines, nodes[:1])


def crossings(routes):
    """How many pairs of lines cross, by the sides on which their ends lie."""
    segments = [(r, a, b) for r, route in enumerate(routes) for a, b in pairwise(route)]
    count = 0
    for (r, a, b), (q, c, d) in combinations(segments, 2):
        if r != q and len({a, b, c, d}) == 4:
            count += side(a, b, c) * side(a, b, d) < 0 and side(c, d, a) * side(c, d, b) < 0
    return count


def side(a, b, c):
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def web(seed, count=60):
    """A tree of screens, with some ways across and most with one back."""
    chance = random.Random(seed)
    nodes = [f"n{n}" for n in range(count)]
    lines = []
    for n in range(1, count):
        parent = nodes[chance.randrange(max(0, n - 12), n)]
        lines.append((parent, nodes[n]))
        if chance.random() < 0.6:
            lines.append((nodes[n], parent))
    lines += [tuple(chance.sample(nodes, 2)) for _ in range(8)]
    return nodes, list(dict.fromkeys(lines))


def on_grid(nodes, lines):
    across = math.ceil(math.sqrt(len(nodes)))
    at = {node: (n % across, n // across) for n, node in enumerate(nodes)}
    return [(at[a], at[b]) for a, b in lines]


def on_layers(nodes, lines):
    laid = layered(nodes, lines, nodes[:1])
    return [
        (tuple(laid.spots[a]), *(tuple(s) for s in laid.passing[a, b]), tuple(laid.spots[b]))
        for a, b in lines
    ]


def test_sixty_screens_cross_far_less_than_in_a_grid():
    for seed in range(6):
        nodes, lines = web(seed)
        assert crossings(on_layers(nodes, lines)) * 4 < crossings(on_grid(nodes, lines))
