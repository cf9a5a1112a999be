"""What people call things that are called otherwise here: typed words find both.

Common practice, no source: what designers, developers and writers say for what a tool does.
"""

from __future__ import annotations

from functools import lru_cache

_SAID = """
swap, replace, substitute, switch: exchange
reset, revert, restore, default: put the whole, put its looks, put its words
override, overrides, overwrite: put the whole, put its, like this instance
group, frame, container, wrapper, enclose: put into a box, draw a box
ungroup, dissolve, unwrap, flatten: take the box apart
rectangle, square, div: draw a box
circle, oval: ellipse
donut, arc: ring
stroke, divider, separator: line
state, states, interaction, interactive: hover and press, states of these looks, axis, cue
variation, option, property: axis, properties
animate, animation, animated, transition, easing: cue, motion
trigger, event, action, click, prototype: cue
resize, bigger, smaller, dimension, dimensions: size, width, height
stretch, expand: width, height, align self
distribute, tidy, equal: spread evenly
center, centre, centred: middle, align, justify
description, documentation, docs, notes, manual: open the guide, uses
look, appearance: paste only the look, same fill
style, format: paste only the look, looks, tokens
export, handoff, developer, css, html, download: hand over, save as a picture
png, svg, screenshot: save as a picture
hide, show, visible, visibility, invisible, eye: shown, show or hide
turn, angle, spin: rotate
clone, copy: duplicate
delete, erase, trash, clear: remove
theme, night, appearance: light or dark
zoom, magnify: look closer, step back, fit the bench, life size
fit, overview: fit the bench
100%, actual: life size
preview, run, test, try: live, trials
play: live, recorded script
macro, script: record what, recorded script
main, master, source, parent: go to the component
edit, open: go to the component, edit the words, open a file
symbol, reusable: make a component
unlink, break, disconnect: detach
placeholder, children, content: slot, words
text, label, type, copywriting: words
font, fonts, letters: carry a font, typeface, size, weight
bold, light: weight
italic: slant
uppercase, capitals, caps: letters
image, photo, import, insert: picture
pictogram, glyph, symbol: icon
artboard, page, canvas: screen
variable, variables, swatch, palette, constant: tokens, token
shortcut, shortcuts, hotkey, hotkeys, keyboard: keys
help, tutorial, learn, lesson: guide, tour
search, command: find
lint, check, audit, accessibility, a11y, contrast, warning, issues, problems: look again
responsive, stress, resilience: trials
data, populate, csv, fake: real rows
order, forward, front, backward, behind, sort: move earlier, move later
spacer: push
space, spacing, gutter: gap, spacer, spread
border, outline: stroke
rounded, round, corner, corners, border-radius: radius
elevation, glow: shadow
crop, hotspot, subject: focal point
fluid, clamp, vw, viewport: grows to
shrink, flex-shrink: gives up
basis, flex-basis: grows from
wrap-reverse, reverse: last line first, last first
notch, safe-area, cutout: clears edges
transparency, alpha, transparent: opacity
background, color, colour, paint: fill, colour
overflow, mask, crop: clip, scrolls
scrollbar, scrollable: scrolls
inset: padding
stack, auto, layout, flex, direction, horizontal, vertical: flow, put into a box
table: columns, rows
constraint, constraints, anchor, absolute: pinned, floating
fixed, sticky: sticks
flip, rtl: mirrored, turns with the direction, from right to left
logical, bidi, ltr, arabic, hebrew: start and end of lines, reads
breakpoint, responsive, container, adaptive: room
aria, semantics, screenreader: role, spoken name
commit, release, share, upload: publish
update, pull, sync, upgrade, refresh: take in newer, look for newer
version, versions, changelog: history
quit, exit: close
collapse, panel, panels, sidebar, interface: panels away, away, or back
pipette, eyedropper: fill, colour
"""


def _table(said: str) -> dict[str, tuple[str, ...]]:
    table: dict[str, tuple[str, ...]] = {}
    for line in said.strip().splitlines():
        people, ours = line.split(":")
        phrases = tuple(phrase.strip() for phrase in ours.split(","))
        for word in people.split(","):
            table[word.strip()] = (*table.get(word.strip(), ()), *phrases)
    return table


_TABLE = _table(_SAID)
# Letters from which on the beginning of a word is taken for it.
_ENOUGH = 3


@lru_cache(maxsize=256)
def ours(word: str) -> tuple[str, ...]:
    """What a typed word, or the beginning of one, is called here, in small letters; kept, since
    each line of a list asks for the same few words with every key."""
    typed = word.lower()
    known = _TABLE.get(typed)
    if known is not None or len(typed) < _ENOUGH:
        return known or ()
    begun = (phrases for said, phrases in _TABLE.items() if said.startswith(typed))
    return tuple(dict.fromkeys(phrase for phrases in begun for phrase in phrases))
