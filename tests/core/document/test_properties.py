import math

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from outgrowth.core.color import Color, Gradient, Stop
from outgrowth.core.document.properties import (
    FAMILY_MEMBERS,
    TABLE,
    _plainly_fits,
    applies,
    checked,
    row_of,
)
from outgrowth.core.document.types import (
    check_value,
    read_value,
    reference_schema,
    value_schema,
    write_value,
)
from outgrowth.core.document.values import (
    FIT,
    FromProperty,
    GridTrack,
    Once,
    Picture,
    Run,
    Shadow,
    Shift,
    Size,
    Token,
    fixed,
)
from outgrowth.core.refusal import ValueRefusal
from outgrowth.core.resolve.scene import PaintStyle
from outgrowth.core.resolve.styles import LayoutStyle

numbers = st.integers(0, 1000).map(float)
sizes = st.one_of(
    st.just(FIT),
    st.builds(Size, st.sampled_from(["fixed", "grow", "percent"]), numbers),
)
formulas = st.sampled_from(["min(100%, 640px)", "clamp(16, 1.2ch + 1 %, 24)", "100% - 2 * 24px"])
relative = st.one_of(
    st.builds(Size, st.sampled_from(["percent", "chars"]), numbers),
    st.builds(Size, st.just("formula"), st.just(0.0), formulas),
)
tracks = st.builds(
    GridTrack,
    st.sampled_from(["fixed", "grow", "percent"]),
    numbers,
    least=st.none() | st.just(FIT) | numbers.map(fixed),
)
often = st.builds(
    GridTrack,
    st.just("grow"),
    numbers,
    least=numbers.map(lambda n: fixed(n + 1)),
    repeat=st.sampled_from(["fit", "fill"]),
)
colors = st.builds(Color, *[st.integers(0, 255).map(lambda n: n / 255)] * 4)
runs = st.lists(
    st.builds(Run, st.text(min_size=1, max_size=9), st.booleans(), st.booleans()), max_size=3
).map(tuple)
shadows = st.lists(
    st.builds(
        Shadow, colors, numbers, numbers, numbers, numbers, st.booleans(), st.text(max_size=9)
    ),
    max_size=3,
).map(tuple)
references = st.one_of(
    st.builds(Token, st.sampled_from(["color.sea", "a.b"])),
    st.builds(FromProperty, st.just("label")),
    st.builds(Shift, st.sampled_from(["add", "multiply", "darken", "fade"]), numbers),
)
stops = st.lists(st.integers(0, 20), min_size=2, max_size=4).flatmap(
    lambda places: st.tuples(*[st.builds(Stop, colors, st.just(n / 20)) for n in sorted(places)])
)
gradients = st.builds(
    Gradient, st.just("linear"), stops, st.integers(-360, 720).map(float)
) | st.builds(Gradient, st.just("radial"), stops)
LITERALS = {
    "ColorType": colors,
    "FillType": colors | gradients,
    "ContentType": runs,
    "ShadowsType": shadows,
    "SizeType": st.one_of(sizes, relative),
    "PictureType": st.builds(Picture, st.text(max_size=9), numbers, numbers),
    "FlagType": st.booleans(),
    "ModeType": st.text(max_size=20),
    "NameType": st.text(max_size=20) | st.just("{a.b}") | st.just("{}"),
    "LimitType": st.one_of(numbers, relative),
    "TracksType": st.lists(sizes | tracks, max_size=5).map(tuple) | st.tuples(often),
    "AreasType": st.sampled_from(["", "head head / side main", " a . /. b", "ein-Name"]),
    "AreaType": st.sampled_from(["", "head", " main "]),
    "OnceType": st.lists(st.builds(Once, st.text(max_size=9), st.text(max_size=9)), max_size=3).map(
        tuple
    ),
}


def literals(row):
    kind = type(row.type).__name__
    if kind == "NumberType":
        return st.floats(row.type.minimum, row.type.maximum)
    if kind == "ChoiceType":
        return st.sampled_from(row.type.options)
    return LITERALS.get(kind, runs | st.text())


@pytest.mark.parametrize("name", TABLE)
def test_every_value_is_read_back_and_valid_against_its_schema(name):
    row = TABLE[name]
    schema = value_schema(row.type) | {"$defs": {"reference": reference_schema()}}
    validator = jsonschema.Draft202012Validator(schema)

    @given(st.one_of(literals(row), references))
    def check(value):
        value = check_value(row.type, value)
        written = write_value(row.type, value)
        assert read_value(row.type, written) == value
        validator.validate(written)

    check()


def test_every_default_is_allowed_and_every_row_says_what_it_is():
    for row in TABLE.values():
        assert row.type.check(row.default) == row.default
        assert row.label
        assert row.group
        assert row.kinds


def test_the_resolved_styles_have_the_tables_rows_in_its_order():
    for record, affects in ((LayoutStyle, "layout"), (PaintStyle, "paint")):
        rows = [row.field for row in TABLE.values() if row.affects == affects]
        assert list(record.__struct_fields__) == rows


def test_families_name_rows_that_are_there():
    for members in FAMILY_MEMBERS.values():
        assert all(member in TABLE for member in members)
    assert applies("padding-left", "box")
    assert not applies("padding-left", "text")
    assert row_of("choice:kind").affects == "structure"


@pytest.mark.parametrize(
    ("name", "value"),
    [
        ("gap", math.nan),
        ("gap", math.inf),
        ("gap", -1.0),
        ("gap", 1e9),
        ("gap", "wide"),
        ("fill", "red"),
        ("flow", "diagonal"),
        ("width", Size("fixed", -5.0)),
        ("shown", 1.0),
        ("content", "words"),
        ("content", (Run("x" * 100_001),)),
        ("shadow", (Shadow(Color(0, 0, 0), blur=-1.0),)),
    ],
)
def test_absurd_values_are_refused_with_a_sentence(name, value):
    with pytest.raises(ValueRefusal, match=r"\.$"):
        check_value(TABLE[name].type, value)


@pytest.mark.parametrize("name", [*TABLE, "choice:kind"])
def test_what_is_taken_at_a_glance_is_what_a_full_look_takes(name):
    """Nodes skip the full check for values that are plainly fitting: it would change nothing."""

    @settings(max_examples=25)
    @given(
        st.one_of(literals(row_of(name)), references, *LITERALS.values(), st.floats(), st.text())
    )
    def check(value):
        if _plainly_fits(name, value):
            taken = checked(name, value)
            assert taken == value and type(taken) is type(value)

    check()
