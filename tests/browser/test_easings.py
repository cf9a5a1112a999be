"""Our easings against Chromium's own computed progress (Web Animations)."""

import pytest

from outgrowth.core.motion.easing import easing

pytestmark = pytest.mark.browser

_PROGRESS = """
const [text, shares] = arguments;
const effect = new KeyframeEffect(document.body, [{opacity: 0}, {opacity: 1}],
  {duration: 1000, easing: text, fill: "both"});
const animation = new Animation(effect); animation.pause();
return shares.map(s => {
  animation.currentTime = 1000 * s; return effect.getComputedTiming().progress;
});
"""
SHARES = [n / 40 for n in range(40)]


# Source: Debian's Chromium, Web Animations (references.md: ≤ 1e-4).
@pytest.mark.parametrize(
    "text",
    [
        "linear",
        "ease",
        "ease-in",
        "ease-out",
        "ease-in-out",
        "cubic-bezier(0.2, 0, 0, 1)",
        "cubic-bezier(0.3, -0.5, 0.2, 1.6)",
        "cubic-bezier(0, 0, 1, 1)",
        "cubic-bezier(1, 0, 0, 1)",
        "steps(4)",
        "steps(3, jump-start)",
        "steps(5, jump-none)",
        "steps(2, jump-both)",
        "linear(0, 0.25, 1)",
        "linear(0, 0.25 25% 75%, 1)",
        "linear(0, 1.2 40%, 0.9 70%, 1)",
    ],
)
def test_an_easing_is_chromiums(chromium, text):
    chromium.get("about:blank")
    theirs = chromium.execute_script(_PROGRESS, text, SHARES)
    ours = [easing(text)(share) for share in SHARES]
    assert ours == pytest.approx(theirs, abs=1e-4)
