"""The hand-over page: every element with its variants to play with, and what a developer asks.

It opens from a disk: one classic script, one style sheet, nothing inline.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from html import escape

from outgrowth.core.document.axis_parts import resting_value
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.records import Component, Document, walk
from outgrowth.core.document.rooms import room_axes, room_text
from outgrowth.core.document.sentences import cue_sentence
from outgrowth.core.document.uses import holds_directly
from outgrowth.core.document.variants import offered, variants
from outgrowth.core.exchange.web.bundle import Code
from outgrowth.core.exchange.web.modules import events_of
from outgrowth.core.exchange.web.names import Names, OwnerNames, camel
from outgrowth.core.exchange.web.tokens_css import value_text

_MOST_SHOWN = 48
"""Variants of one element on the page; the controls lead to all others."""


def overview(
    document: Document, names: Names, components: list[tuple[Component, Code]], screens: list[str]
) -> str:
    """The page."""
    counts = Counter(held for owner in document.owners() for _, held in holds_directly(owner))
    sections = [
        _section(document, names, component, code, counts[component.id])
        for component, code in components
    ]
    links = "".join(
        f'<li><a href="#{names.owners[c.id].element}">{escape(c.name)}</a></li>'
        for c, _ in components
    )
    pages = "".join(f'<li><a href="screens/{n}.html">{escape(n)}</a></li>' for n in screens)
    renamed = "".join(
        f"<tr><td>{escape(r.what)}</td><td>{escape(r.before)}</td><td><code>{escape(r.after)}</code></td></tr>"
        for r in names.renamed
    )
    return f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{escape(document.name)}: hand-over</title>
<link rel="stylesheet" href="tokens.css">
<link rel="stylesheet" href="elements.css">
<link rel="stylesheet" href="hand-over.css">
<script defer src="elements.js"></script>
<script defer src="hand-over.js"></script>
</head>
<body>
<header>
<h1>{escape(document.name)}</h1>
<p>{_count(len(components), "element")}, {_count(len(screens), "screen")}, {_count(len(document.tokens), "token")}</p>
</header>
<nav aria-label="Elements"><h2>Elements</h2><ul>{links}</ul><h2>Screens</h2><ul>{pages}</ul></nav>
<main>
<section id="use"><h2>How to use them</h2>
<pre><code>{escape(_use(names, components))}</code></pre>
<p>Every element is a module of its own. A page without modules takes <code>elements.js</code> instead, which has them all.
With <code>elements.css</code> nothing moves when they come; on a server, <code>render.js</code> writes them out.
Colours and sizes come from <code>tokens.css</code>: change a custom property there, or on any element around.
A part is restyled by <code>::part()</code>, a state is <code>:state()</code>.</p></section>
{chr(10).join(sections)}
{_tokens(document, names)}
{f'<section id="names"><h2>Names that are others in the code</h2><table><thead><tr><th>What</th><th>In the design</th><th>In the code</th></tr></thead><tbody>{renamed}</tbody></table></section>' if renamed else ""}
</main>
</body>
</html>
"""


def _count(number: int, what: str) -> str:
    return f"{number:,} {what}{'' if number == 1 else 's'}"


def _use(names: Names, components: list[tuple[Component, Code]]) -> str:
    element = names.owners[components[0][0].id].element if components else "hs-button"
    for component, _ in components:
        if component.properties:
            element = names.owners[component.id].element
            break
    return (
        '<link rel="stylesheet" href="tokens.css">\n<link rel="stylesheet" href="elements.css">\n'
        f'<script type="module" src="components/{element}.js"></script>\n\n<{element}></{element}>'
    )


def _section(document: Document, names: Names, component: Component, code: Code, used: int) -> str:
    own = names.owners[component.id]
    count = sum(1 for v in variants(component) if offered(component, v))
    about = _guidance(component)
    return f"""<section id="{own.element}" class="element">
<h2>{escape(component.name)} <code>&lt;{own.element}&gt;</code></h2>
{about}
<p class="facts">{_count(count, "variant")}, {_count(len(code.rules), "style rule")}, used {_count(used, "time")}</p>
<div class="try"><div class="stage"><{own.element}></{own.element}></div><form class="controls" aria-label="Try {escape(component.name)}">{_controls(own)}</form></div>
<details><summary>All variants</summary><div class="variants">{_variants(component, own)}</div></details>
{_settings(own)}
{_events(code)}
{_behaviour(document, component)}
{_parts(component, own)}
<details><summary>The code</summary><pre><code>{escape(code.javascript)}</code></pre></details>
</section>"""


def _guidance(component: Component) -> str:
    about = f"<p>{escape(component.description)}</p>" if component.description else ""
    for title, lines in (("Do", component.dos), ("Don't", component.donts)):
        if lines:
            items = "".join(f"<li>{escape(line)}</li>" for line in lines)
            about += f"<h3>{title}</h3><ul>{items}</ul>"
    return about


def _controls(own: OwnerNames) -> str:
    fields = []
    for axis in own.axes.values():
        if axis.axis.driver != "none":
            continue
        if axis.boolean:
            fields.append(_box(own, axis.attribute, axis.axis.name))
        else:
            options = "".join(
                f'<option value="{v}"{" selected" if k == axis.axis.default else ""}>{v}</option>'
                for k, v in axis.values.items()
            )
            fields.append(
                f'<label>{escape(axis.axis.name)} <select data-for="{axis.attribute}">{options}</select></label>'
            )
    for prop in own.properties.values():
        if prop.property.kind == "switch":
            fields.append(_box(own, prop.attribute, prop.property.name))
        elif prop.property.kind != "slot":
            fields.append(
                f'<label>{escape(prop.property.name)} <input type="text" data-for="{prop.attribute}"></label>'
            )
    return "".join(fields) or "<p>Nothing to set.</p>"


def _box(own: OwnerNames, attribute: str, name: str) -> str:
    return (
        f'<label class="box"><input type="checkbox" data-for="{attribute}"> {escape(name)} '
        f"<code>{attribute}</code></label>"
    )


def _variants(component: Component, own: OwnerNames) -> str:
    cells, count = [], 0
    for variant in variants(component):
        driven = any(
            a.driver != "none" and variant[a.id] != resting_value(a) for a in component.axes
        )
        if driven or not offered(component, variant):
            continue
        count += 1
        if count <= _MOST_SHOWN:
            attributes = "".join(
                _attribute(own, axis, value)
                for axis, value in sorted(variant.items())
                if axis in own.axes
            )
            words = ", ".join(
                f"{a.name}: {value.name}"
                for a in component.axes
                if a.driver == "none" and (value := a.value(variant[a.id])) is not None
            )
            cells.append(
                f"<figure><{own.element}{attributes}></{own.element}>"
                f"<figcaption>{escape(words) or 'as it is'}</figcaption></figure>"
            )
    more = f"<p>And {count - _MOST_SHOWN:,} more.</p>" if count > _MOST_SHOWN else ""
    return "".join(cells) + more


def _attribute(own: OwnerNames, axis: str, value: str) -> str:
    names = own.axes[axis]
    if names.boolean:
        return f" {names.attribute}" if value == names.yes_id else ""
    return "" if value == names.axis.default else f' {names.attribute}="{names.values[value]}"'


_DRIVERS = {"pointer": "the pointer sets it", "focus": "the focus sets it"}


def _settings(own: OwnerNames) -> str:
    rows = []
    for axis in own.axes.values():
        kind = "yes or no" if axis.boolean else ", ".join(axis.values.values())
        rows.append((axis.attribute, kind, _DRIVERS.get(axis.axis.driver, axis.axis.name)))
    for names in own.properties.values():
        prop = names.property
        rows.append((names.attribute, prop.kind, prop.description or prop.name))
    if not rows:
        return ""
    body = "".join(
        f"<tr><td><code>{a}</code></td><td><code>{camel(a)}</code></td><td>{escape(k)}</td><td>{escape(n)}</td></tr>"
        for a, k, n in rows
    )
    head = "<tr><th>Attribute</th><th>Property</th><th>Values</th><th>What it is</th></tr>"
    return f"<h3>Attributes and properties</h3><table><thead>{head}</thead><tbody>{body}</tbody></table>"


def _events(code: Code) -> str:
    names = (
        [f"<code>{name}</code>" for name, _ in events_of(code.definition)]
        if code.definition.get("cues")
        else []
    )
    if not names:
        return ""
    return f"<h3>Events</h3><p>{', '.join(names)}: <code>event.detail</code> has <code>name</code>, <code>value</code> and <code>previous</code>.</p>"


def _behaviour(document: Document, component: Component) -> str:
    items = [cue_sentence(document, component, cue) for cue in component.behaviour.cues]
    items += [
        f"{a.name} moves in {_motion(a.motion)}." for a in component.axes if a.motion is not None
    ]
    items += [room_text(axis) for axis in room_axes(component)]
    if not items:
        return ""
    return f"<h3>What it does</h3><ul>{''.join(f'<li>{escape(item)}</li>' for item in items)}</ul>"


def _motion(motion: Motion) -> str:
    delay = f", {motion.delay:g} ms later" if motion.delay else ""
    return f"{motion.duration:g} ms, {motion.easing}{delay}"


def _parts(component: Component, own: OwnerNames) -> str:
    names = [own.nodes[n.id] for n in walk(component.root) if n is not component.root]
    if not names:
        return ""
    return f"<h3>Parts</h3><p>{' '.join(f'<code>{name}</code>' for name in names)}</p>"


def _tokens(document: Document, names: Names) -> str:
    if not document.tokens:
        return ""
    rows = []
    for path, token in sorted(document.tokens.items()):
        shown = (
            f'<i class="swatch" data-token="{names.tokens[path]}"></i>'
            if token.kind == "color"
            else ""
        )
        values = [value_text(token.kind, token.value, names)]
        values += [
            value_text(token.kind, token.modes.get(m, token.value), names) for m in document.modes
        ]
        cells = "".join(f"<td><code>{escape(v)}</code></td>" for v in values)
        rows.append(
            f"<tr><td>{shown}<code>{names.tokens[path]}</code></td>{cells}<td>{escape(token.description)}</td></tr>"
        )
    modes = "".join(f"<th>{escape(mode)}</th>" for mode in document.modes)
    head = f"<tr><th>Custom property</th><th>Usual</th>{modes}<th>What for</th></tr>"
    return f'<section id="tokens"><h2>Tokens</h2><table><thead>{head}</thead><tbody>{"".join(rows)}</tbody></table></section>'


def every(items: Iterable[str]) -> str:
    """Items, one a line."""
    return "\n".join(items)
