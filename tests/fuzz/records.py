"""Random records, made from what the file format says of them: a field that is added is tried by
that, in files and in merging."""

from __future__ import annotations

from outgrowth.core.exchange.native.records import schema
from tests.fuzz.values import NUMBERS, WORDS

DEFINITIONS = schema()["$defs"]
_DEEPEST = 4
_NAMES = ("Anchor", "Two words", "שלום", "a/b", "Open: yes")


def random_json(rng, of, depth=0):
    """JSON that fits a schema; `more` keys that nobody knows among it, where they are kept."""
    if "$ref" in of:
        return random_json(rng, DEFINITIONS[of["$ref"].rpartition("/")[2]], depth + 1)
    if "anyOf" in of:
        return random_json(rng, rng.choice(of["anyOf"]), depth)
    if "const" in of:
        return of["const"]
    if "enum" in of:
        return rng.choice(of["enum"])
    kind = of.get("type", "string")
    kind = rng.choice(kind) if isinstance(kind, list) else kind
    return _OF_KIND[kind](rng, of, depth)


def _object(rng, of, depth):
    parts = of.get("properties", {})
    made = {
        key: random_json(rng, inner, depth)
        for key, inner in parts.items()
        if key in of.get("required", ()) or rng.random() < (0.5 if depth < _DEEPEST else 0.0)
    }
    inside = of.get("additionalProperties")
    if isinstance(inside, dict) and depth < _DEEPEST:
        keys = rng.sample(_NAMES, rng.randint(0, 2))
        made |= {key: random_json(rng, inside, depth) for key in keys}
    return made


def _array(rng, of, depth):
    least = of.get("minItems", 0)
    most = of.get("maxItems", max(least, 2 if depth < _DEEPEST else least))
    return [random_json(rng, of["items"], depth) for _ in range(rng.randint(least, most))]


def _number(rng, of, depth):
    low, high = of.get("minimum", -1e6), of.get("maximum", 1e6)
    return min(max(rng.choice([n for n in NUMBERS if abs(n) < 1e300]), low), high)


def _string(rng, of, depth):
    return rng.choice(_NAMES) if rng.random() < 0.8 else rng.choice(WORDS)


_OF_KIND = {
    "object": _object,
    "array": _array,
    "number": _number,
    "string": _string,
    "boolean": lambda rng, of, depth: rng.random() < 0.5,
    "null": lambda rng, of, depth: None,
}
