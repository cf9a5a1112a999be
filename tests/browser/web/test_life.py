"""Exported elements in the life of a page: scripts that come early, late or twice, many values set
at once, forms, labels. Source: Debian's Chromium; HTML, 4.13 (custom elements)."""

from __future__ import annotations

import shutil
import subprocess

import pytest

from tests.browser.web.elements import asked, page_of_elements

pytestmark = pytest.mark.browser


@pytest.fixture
def life(chromium, handed):
    """A page with buttons and check boxes, as it is when their letters are there."""
    page_of_elements(handed.folder, "life-page", ["hs-button", "hs-checkbox", "hs-radio"])
    chromium.get(f"{handed.address}life-page.html")
    chromium.execute_async_script("document.fonts.ready.then(arguments[0])")
    return chromium


SETS = """
const [count, name, value] = given, all = [];
for (let n = 0; n < count; n++) document.body.append(all[n] = document.createElement("hs-button"));
await later();
let animated = 0;
const animate = Element.prototype.animate;
Element.prototype.animate = function (...rest) { animated++; return animate.apply(this, rest); };
for (let n = 0; n < count; n++) all[n][name] = name === "label" ? `${value} ${n}` : value;
await later();
Element.prototype.animate = animate;
return [animated, all.every((one) => String(one[name]).startsWith(value))];
"""


def layouts(driver):
    driver.execute_cdp_cmd("Performance.enable", {})
    said = driver.execute_cdp_cmd("Performance.getMetrics", {})["metrics"]
    found = {one["name"]: one["value"] for one in said}
    return found["LayoutCount"] + found["RecalcStyleCount"]


def test_what_a_script_sets_costs_layouts_by_the_task_and_not_by_the_element(life):
    counts = {}
    for name, value in (("label", "Book"), ("kind", "quiet")):
        for count in (10, 80):
            before = layouts(life)
            animated, held = asked(life, SETS, count, name, value)
            counts[name, count] = layouts(life) - before
            assert held
            # Words are there at once; what has another look moves, each property of it once.
            assert animated == (0 if name == "label" else 4 * count)
            asked(life, "document.body.replaceChildren(); await later();")
    for name in ("label", "kind"):
        assert counts[name, 80] <= counts[name, 10] + 20, counts


def test_a_value_that_was_set_is_read_at_once_and_there_before_the_next_frame(life):
    said = asked(
        life,
        "const one = document.body.appendChild(document.createElement('hs-button')); await later();"
        "one.label = 'Now'; one.kind = 'quiet'; const read = [one.label, one.kind];"
        "await null; await null;"
        "return [...read, one.shadowRoot.textContent.includes('Now'), one.matches(':state(kind-quiet)')];",
    )
    assert said == ["Now", "quiet", True, True]


def test_what_is_set_while_an_element_is_away_is_there_when_it_comes_back(life):
    said = asked(
        life,
        "const one = document.body.appendChild(document.createElement('hs-button')); await later();"
        "one.remove(); one.label = 'Away'; one.kind = 'quiet'; await later();"
        "document.body.append(one); await later();"
        "return [one.shadowRoot.textContent.includes('Away'), one.matches(':state(kind-quiet)')];",
    )
    assert said == [True, True]


def test_what_is_set_before_an_element_is_defined_is_taken_up(chromium, handed):
    page_of_elements(handed.folder, "early-page", ["hs-button"])
    (handed.folder / "early.html").write_text(
        '<!doctype html><meta charset="utf-8"><link rel="stylesheet" href="tokens.css"><body></body>'
    )
    chromium.get(f"{handed.address}early.html")
    said = asked(
        chromium,
        "const one = document.body.appendChild(document.createElement('hs-button'));"
        "one.label = 'Early'; one.kind = 'quiet';"
        "await import('./components/hs-button.js'); await later();"
        "return [one.label, one.kind, one.shadowRoot.textContent.includes('Early'), Object.hasOwn(one, 'label')];",
    )
    assert said == ["Early", "quiet", True, False]


def test_a_module_may_be_there_twice(life, handed):
    copy = handed.folder / "copy"
    shutil.copytree(handed.folder / "components", copy / "components", dirs_exist_ok=True)
    for name in ("runtime.js", "tokens.css"):
        shutil.copy(handed.folder / name, copy)
    said = asked(
        life,
        "const before = customElements.get('hs-button');"
        "await import('./copy/components/hs-button.js');"
        "return customElements.get('hs-button') === before;",
    )
    assert said is True


def test_a_field_has_the_properties_that_fields_have(life):
    said = asked(
        life,
        "const form = document.body.appendChild(document.createElement('form')), one = form.appendChild(document.createElement('hs-checkbox'));"
        "const usual = [one.name, one.required, one.value]; Object.assign(one, { name: 'bicycle', required: true, value: 'yes' }); await later();"
        "const missing = one.validity.valueMissing; one.click(); await later();"
        "return [usual, one.getAttribute('name'), one.hasAttribute('required'), missing, one.checkValidity(), [...new FormData(form)]];",
    )
    assert said == [["", False, "on"], "bicycle", True, True, True, [["bicycle", "yes"]]]


def test_a_server_may_read_a_module(handed, tmp_path):
    node = shutil.which("node")
    if node is None:
        pytest.skip("no other reader of JavaScript here")
    (tmp_path / "package.json").write_text('{"type": "module"}')
    shutil.copytree(handed.folder / "components", tmp_path / "components")
    shutil.copy(handed.folder / "runtime.js", tmp_path)
    script = "await import('./components/hs-button.js'); console.log('read')"
    ended = subprocess.run(
        [node, "--input-type=module", "-e", script],
        cwd=tmp_path, capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    assert (ended.stdout, ended.returncode) == ("read\n", 0), ended.stderr


FORM = """
document.body.replaceChildren();
const form = document.body.appendChild(document.createElement("form"));
const set = form.appendChild(document.createElement("fieldset"));
const label = set.appendChild(document.createElement("label"));
const box = document.createElement("hs-checkbox");
box.setAttribute("name", "car");
label.append("Car ", box);
await later();
const told = () => [...new FormData(form).entries()].flat().join();
"""


def test_a_check_box_is_one_of_its_form(life):
    said = asked(
        life,
        FORM + "const steps = [told()];"
        "label.click(); await later(); steps.push(told());"
        "form.reset(); await later(); steps.push(told());"
        "box.click(); await later(); steps.push(told());"
        "set.disabled = true; await later(); steps.push(told(), box.matches(':disabled'));"
        "let clicks = 0; box.addEventListener('click', () => clicks++); box.click(); await later(); steps.push(clicks);"
        "set.disabled = false; await later(); steps.push(told());"
        "return steps;",
    )
    assert said == ["", "car,on", "", "car,on", "", True, 0, "car,on"]


def test_what_is_required_is_missed_and_told(life):
    said = asked(
        life,
        FORM + "box.setAttribute('required', ''); await later();"
        "const steps = [box.checkValidity(), box.validity.valueMissing, box.validationMessage !== '', form.checkValidity()];"
        "box.click(); await later(); steps.push(form.checkValidity(), box.form === form, box.labels.length);"
        "return steps;",
    )
    assert said == [False, True, True, False, True, True, 1]


def test_of_radios_with_one_name_one_is_chosen(life):
    said = asked(
        life,
        "document.body.replaceChildren();"
        "const form = document.body.appendChild(document.createElement('form')), all = [];"
        "for (const value of ['deck', 'saloon', 'window']) {"
        "  const one = document.createElement('hs-radio');"
        "  one.setAttribute('name', 'seat'); one.setAttribute('value', value); one.setAttribute('required', '');"
        "  form.append(one); all.push(one); }"
        "await later(); const told = () => new FormData(form).getAll('seat').join(), steps = [told(), form.checkValidity()];"
        "for (const one of [all[0], all[2], all[1]]) { one.click(); await later(); await later(); steps.push(told()); }"
        "steps.push(form.checkValidity(), all.map((one) => one.getAttribute('aria-checked')).join());"
        "return steps;",
    )
    assert said == ["", False, "deck", "window", "saloon", True, "false,true,false"]


def test_of_radios_that_are_all_said_to_be_chosen_the_last_is(life):
    """As of the browser's own; and however many there are, it costs no more than a moment."""
    said = asked(
        life,
        "document.body.replaceChildren(); const form = document.body.appendChild(document.createElement('form'));"
        "for (let n = 0; n < 300; n++) { const one = document.createElement('hs-radio');"
        "  one.setAttribute('name', 'seat'); one.setAttribute('value', n); one.toggleAttribute('chosen', n % 100 === 7); form.append(one); }"
        "await later(); await later(); return new FormData(form).getAll('seat').join();",
    )
    assert said == "207"


def test_a_click_of_the_pointer_is_one_tap(life):
    """The click that follows is no second one."""
    said = asked(
        life,
        "document.body.replaceChildren(); const one = document.body.appendChild(document.createElement('hs-checkbox'));"
        "await later(); const { x, y } = one.getBoundingClientRect(), steps = [];"
        "const at = { bubbles: true, composed: true, clientX: x + 4, clientY: y + 4, button: 0 };"
        "const inside = one.shadowRoot.firstElementChild;"
        "for (let n = 0; n < 2; n++) {"
        "  inside.dispatchEvent(new PointerEvent('pointerdown', at)); inside.dispatchEvent(new PointerEvent('pointerup', at));"
        "  inside.dispatchEvent(new MouseEvent('click', { ...at, detail: 1 })); await later(); steps.push(one.checked); }"
        "return steps;",
    )
    assert said == ["on", "off"]


def test_buttons_submit_and_reset_their_form(life):
    said = asked(
        life,
        FORM
        + "const add = (type) => { const one = document.createElement('hs-button'); one.setAttribute('type', type); form.append(one); return one; };"
        "const submit = add('submit'), reset = add('reset'), steps = [];"
        "form.addEventListener('submit', (event) => { event.preventDefault(); steps.push(told()); });"
        "await later(); box.click(); await later(); submit.click(); await later();"
        "reset.click(); await later(); steps.push(told());"
        "submit.addEventListener('click', (event) => event.preventDefault()); submit.click(); await later();"
        "return steps;",
    )
    assert said == ["car,on", ""]


def test_what_a_browser_kept_is_chosen_again(life):
    """As it calls a field when somebody comes back; this page's policy lets nothing be kept."""
    said = asked(
        life,
        FORM + "const kept = [], { setFormValue } = ElementInternals.prototype;"
        "ElementInternals.prototype.setFormValue = function (value, state) {"
        "  kept.push(state); setFormValue.call(this, value, state); };"
        "box.click(); await later(); form.reset(); await later();"
        "ElementInternals.prototype.setFormValue = setFormValue;"
        "const [on, off] = [...new Set(kept)], steps = [];"
        "for (const state of [on, off]) {"
        "  box.formStateRestoreCallback(state, 'restore'); await later(); steps.push(told()); }"
        "return steps;",
    )
    assert said == ["car,on", ""]


BOXES = """
document.body.getBoundingClientRect(); await document.fonts.ready; await later();
return [...document.querySelectorAll(given[0])].map((one) => {
  const { x, y, width, height } = one.getBoundingClientRect();
  return [one.localName + (one.id && "#" + one.id), x, y, width, height];
});
"""


def boxes(driver, selector):
    return {name: box for name, *box in asked(driver, BOXES, selector)}


def moved(before, after):
    """What stands elsewhere, or is as large as it was not; each with both of its boxes."""
    assert before.keys() == after.keys() and before
    return {
        name: (box, after[name])
        for name, box in before.items()
        if any(abs(a - b) > 0.5 for a, b in zip(box, after[name], strict=True))
    }


def test_nothing_moves_when_the_script_comes(chromium, handed):
    """Every element in every choice that has attributes, one below the other."""
    shown = []
    for owner in handed.made.names.owners.values():
        if f"components/{owner.element}.js" not in handed.made.files:
            continue
        chosen = [""]
        for axis in owner.axes.values():
            if axis.axis.driver == "none":
                others = [v for v in axis.values if v != axis.axis.default]
                valued = "" if axis.boolean else '="{}"'
                chosen += [f" {axis.attribute}{valued.format(axis.values[v])}" for v in others]
        chosen += [
            f" {one.attribute}"
            for one in owner.properties.values()
            if one.property.kind == "switch"
        ]
        shown += [f"<{owner.element}{one}></{owner.element}>" for one in chosen]
    assert len(shown) > 40
    numbered = [one.replace(">", f' id="n{n}">', 1) for n, one in enumerate(shown)]
    (handed.folder / "standing.html").write_text(
        '<!doctype html><meta charset="utf-8"><link rel="stylesheet" href="tokens.css">'
        f'<link rel="stylesheet" href="elements.css"><body>{"".join(numbered)}</body>'
    )
    chromium.get(f"{handed.address}standing.html")
    before = boxes(chromium, "body > *")
    modules = [path for path in handed.made.files if path.startswith("components/")]
    for path in modules:
        if path.endswith(".js"):
            asked(chromium, "await import(given[0]);", f"{handed.address}{path}")
    asked(chromium, "await later(); await later();")
    assert chromium.execute_script("return !document.querySelector(':not(:defined)')")
    assert not moved(before, boxes(chromium, "body > *"))


def test_nothing_on_a_screen_moves_when_the_script_comes(chromium, handed):
    pages = [path for path in handed.made.files if path.startswith("screens/") and "html" in path]
    assert len(pages) > 5
    for path in pages:
        page = handed.made.files[path].decode()
        without = "\n".join(line for line in page.splitlines() if "<script" not in line)
        (handed.folder / "screens" / "without.html").write_text(without)
        chromium.get(f"{handed.address}screens/without.html")
        before = boxes(chromium, "main, main *")
        chromium.get(f"{handed.address}{path}")
        after = boxes(chromium, "main, main *")
        assert not moved(before, after), path


def test_what_is_thrown_away_is_gone(life):
    """Once nothing holds them, elements are let go with all that is in them."""

    def nodes():
        for _ in range(3):
            life.execute_cdp_cmd("HeapProfiler.collectGarbage", {})
        return life.execute_cdp_cmd("Memory.getDOMCounters", {})["nodes"]

    before = nodes()
    for _ in range(3):
        asked(
            life,
            "for (let n = 0; n < 100; n++) document.body.append(document.createElement('hs-button'));"
            "await later(); for (const one of document.body.children) { one.label = 'x'; one.kind = 'quiet'; }"
            "await later();",
        )
        assert nodes() > before + 500
        asked(life, "document.body.replaceChildren(); await later(); await later();")
    assert nodes() <= before + 20
