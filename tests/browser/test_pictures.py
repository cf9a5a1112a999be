"""Our painter's picture against Chromium's of the exported page."""

import io

import numpy as np
import pytest
from immutables import Map
from PIL import Image

from outgrowth.app.shot import picture
from outgrowth.core.color import parse, parse_fill
from outgrowth.core.document.records import Asset
from outgrowth.core.document.values import Picture, Shadow, fixed
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter
from outgrowth.resources import PICTURES

pytestmark = pytest.mark.browser

intern = Interner()
SEA, SAND, INK = parse("#17495A"), parse("#F5F0E6"), parse("#17252B")
CORNERS = ("top-left", "top-right", "bottom-right", "bottom-left")
ROUND = {f"radius-{corner}": 12.0 for corner in CORNERS}
LINE = {f"stroke-{side}": 4.0 for side in ("top", "right", "bottom", "left")}


def part(kind="box", **style):
    base = {"width": fixed(72.0), "height": fixed(48.0), "fill": SAND, "stroke": SEA}
    values = base | {name.replace("_", "-"): value for name, value in style.items()}
    layout = intern.layout(kind, values, ())
    return intern.scene(SceneParts(kind, layout, intern.paint(values)))


VIEW = Asset("skerry.png", "image/png", (PICTURES / "skerry.png").read_bytes())
HELD = Map({VIEW.digest: VIEW})


def seen(fit, **style):
    return part("image", picture=Picture(VIEW.digest, 520.0, 320.0), fit=fit, **style)


PARTS = {
    "a plain stroke": part(**LINE, **ROUND),
    "a stroke on the edge": part(**(LINE | {"stroke-place": "center"}), **ROUND),
    "a stroke outside": part(**(LINE | {"stroke-place": "outside"}), **ROUND),
    "one side": part(stroke_bottom=4.0),
    "uneven sides": part(stroke_top=2.0, stroke_left=9.0, stroke_right=5.0, **ROUND),
    "shadows": part(
        shadow=(Shadow(INK.with_alpha(0.4), 2.0, 6.0, 8.0), Shadow(SEA, 0.0, -2.0, inner=True))
    ),
    "a disc": part("shape", form="ellipse", fill=SEA),
    "a quarter of a ring": part("shape", form="ellipse", fill=SEA, arc_sweep=90.0, thickness=8.0),
    "a ring": part("shape", form="ellipse", fill=SEA, thickness=6.0),
    "a line": part("shape", form="line", line_width=4.0),
    "a linear gradient": part(fill=parse_fill("linear-gradient(60deg, #17495A, #F5F0E6)"), **ROUND),
    "three colours": part(fill=parse_fill("linear-gradient(#17495A, #FFFFFF 20%, #B8452B)")),
    "a radial gradient": part(fill=parse_fill("radial-gradient(#F5F0E6 10%, #17495A)")),
    "a gradient disc": part(
        "shape", form="ellipse", fill=parse_fill("linear-gradient(to right, #17495A, #F5F0E6)")
    ),
    "a radial disc": part(
        "shape", form="ellipse", fill=parse_fill("radial-gradient(#F5F0E6, #17495A)")
    ),
    "a turned box": part(rotate=20.0, scale=0.8, opacity=0.5),
    "a picture cut to size": seen("cover", **ROUND),
    "a whole picture": seen("contain", fill=SEA),
    "a cut picture by its focal point": seen("cover", focal_x=0.1, focal_y=0.9, **ROUND),
    "a whole picture by its focal point": seen("contain", fill=SEA, focal_x=0.0, focal_y=1.0),
    "a picture out of shape": seen("stretch"),
    "a picture side by side": seen("tile"),
}


# Source: Debian's Chromium (references.md: ≤ 1 % of pixels differ by more than 8 levels).
@pytest.mark.parametrize("name", PARTS)
def test_a_part_is_painted_as_in_chromium(chromium, qapp, fonts, tmp_path, name):
    inside = {"width": fixed(180.0), "height": fixed(140.0), "fill": parse("#FFFFFF")}
    inside |= {"flow": "row", "justify": "center", "align": "center"}
    scene = PARTS[name]
    layout = intern.layout("box", inside, (scene.layout,))
    root = intern.scene(
        SceneParts("box", layout, intern.paint(inside), (scene,), ("part",), ("part",))
    )
    placed = Layout(Typesetter(fonts)).place(layout)
    file = tmp_path / "part.html"
    file.write_text(page(root, placed, name, HELD))
    chromium.get(file.as_uri())
    theirs = np.asarray(Image.open(io.BytesIO(chromium.get_screenshot_as_png())).convert("RGB"))
    path = tmp_path / "ours.png"
    picture(root, placed, 1.0, True, HELD).save(str(path))
    ours = np.asarray(Image.open(path).convert("RGB"))
    here = theirs[: ours.shape[0], : ours.shape[1]].astype(int)
    differing = np.abs(ours.astype(int) - here).max(axis=2) > 8
    assert differing.mean() <= 0.01, f"{differing.mean():.2%} of the pixels differ"
