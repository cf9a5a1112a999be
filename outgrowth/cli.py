"""The command line: opens windows, measures layouts, draws pictures.

outgrowth [FILE]                                     opens the window
outgrowth demo                                       opens the demo, with a team
outgrowth measure FILE --screen NAME --json          prints every node's rectangle
outgrowth shot FILE --component NAME -o PICTURE.png  draws without a window
outgrowth play FILE --screen NAME --script S.json    plays a recorded script headless

Handing over stands in cli_export, the review in cli_review, the team's library in cli_team.
"""

from __future__ import annotations

import argparse
import json
import os
import sys
import time
from pathlib import Path

import msgspec
from immutables import Map

from outgrowth import cli_export, cli_review, cli_team
from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES
from outgrowth.core.document.records import Component, ComponentProperty, Document, Owner
from outgrowth.core.document.refusal import Refusal, quoted, sentence
from outgrowth.core.document.values import LARGEST_NUMBER, Literals
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.exchange.native import FileProblem, load
from outgrowth.core.exchange.native.disk import read_file
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import Script, check_script, play, read_script
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import DEMO, FONTS
from outgrowth.workspace.libraries import data_folder

_COMMANDS = (
    "measure",
    "shot",
    "play",
    "open",
    "demo",
    "keys",
    *cli_export.COMMANDS,
    *cli_review.COMMANDS,
    *cli_team.COMMANDS,
)


class UsageProblem(ValueError):
    """The command cannot be done; the message is a sentence for the user."""


def main(argv: list[str] | None = None) -> int:
    """Runs one command; the exit code is 0, or 2 with a sentence on standard error."""
    given = sys.argv[1:] if argv is None else argv
    given = given or ["open"]
    if given and given[0] not in _COMMANDS and not given[0].startswith("-"):
        given = ["open", *given]
    arguments = _parser().parse_args(given)
    try:
        return int(arguments.act(arguments))
    except (FileProblem, UsageProblem, Refusal) as problem:
        print(sentence(str(problem), _LONGEST_LINE), file=sys.stderr)
        return 2


# A longer line in a terminal is no message any more.
_LONGEST_LINE = 2_000


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="outgrowth", description="Reusable interface parts.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND or FILE")
    window = commands.add_parser("open", help="open a file in a window")
    window.add_argument("file", type=Path, nargs="?", help="a file, or a folder of one")
    window.add_argument("--dark", action="store_const", const=True, help="begin with the dark look")
    window.add_argument("--on", default="", metavar="NAME", help="the component or screen to show")
    window.add_argument("--shot", type=Path, help="save a picture of the window and end")
    window.set_defaults(act=_open)
    demo = commands.add_parser("demo", help="open the demo, with a library of its own")
    demo.add_argument("--dark", action="store_const", const=True, help="begin with the dark look")
    demo.add_argument("--on", default="", metavar="NAME", help="the component or screen to show")
    demo.add_argument("--shot", type=Path, help="save a picture of the window and end")
    demo.set_defaults(act=_demo)
    measure = commands.add_parser("measure", help="print every node's rectangle")
    _add_owner_argument(measure)
    measure.add_argument("--json", action="store_true", help="as JSON instead of a table")
    measure.set_defaults(act=_measure)
    shot = commands.add_parser("shot", help="draw without a window")
    _add_owner_argument(shot)
    shot.add_argument("-o", "--out", type=Path, required=True, metavar="PNG")
    shot.add_argument("--scale", type=number, default=1.0)
    shot.set_defaults(act=_shot)
    play = commands.add_parser("play", help="play a recorded script without a window")
    _add_owner_argument(play)
    play.add_argument("--script", type=Path, required=True, metavar="JSON")
    play.add_argument("--times", help="when to look, in ms: 0,100,300 (else as the script says)")
    play.add_argument("--touch", action="store_true", help="by a finger, which does not hover")
    play.add_argument("--reduced-motion", action="store_true", help="every change is a cut")
    play.add_argument("--json", action="store_true", help="as JSON instead of a table")
    play.set_defaults(act=_play)
    keys = commands.add_parser("keys", help="list what can be done in the window, with its keys")
    keys.add_argument("search", nargs="*", help="words that are in it")
    keys.set_defaults(act=_keys)
    cli_export.add_commands(commands)
    cli_review.add_commands(commands)
    cli_team.add_commands(commands)
    return parser


def number(text: str) -> float:
    """A finite number that is not negative. Raises ValueError, which argparse tells."""
    number = float(text)
    if not 0 <= number <= LARGEST_NUMBER:
        raise ValueError(text)
    return number


def _add_owner_argument(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", type=Path)
    choice = parser.add_mutually_exclusive_group(required=True)
    choice.add_argument("--screen", metavar="NAME")
    choice.add_argument("--component", metavar="NAME")
    parser.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="[PATH:]NAME=VALUE",
        help="an axis or property of the component by name, or of the instance at a path of "
        "names on the screen: --set 'header/back button:State=hover'",
    )
    parser.add_argument("--width", type=number, help="the room across, for what grows or wraps")


def _open(arguments: argparse.Namespace) -> int:
    # Here and not above: measuring needs no Qt, and Qt takes long to import.
    from outgrowth.app.main import run

    try:
        return run(arguments.file, arguments.dark, arguments.shot, arguments.on)
    except KeyError as problem:
        raise UsageProblem(f"There is no component or screen called {problem}.") from problem


def _demo(arguments: argparse.Namespace) -> int:
    # Here and not above: only the demo plays a team.
    from outgrowth.demo.team import demo_file

    try:
        arguments.file = demo_file(data_folder(), int(time.time()))
    except (OSError, Refusal):
        arguments.file = DEMO  # where nothing can be kept, it is opened without a team
    return _open(arguments)


def _keys(arguments: argparse.Namespace) -> int:
    # Here and not above: only this command asks what the window can do.
    from outgrowth.workspace.views.key_rows import all_titles, key_rows, keys_text

    rows = key_rows(all_titles(), " ".join(arguments.search))
    print(keys_text(rows) or "Nothing is called so. Try one word of it.")
    return 0


def _measure(arguments: argparse.Namespace) -> int:
    scene, placed, name = _laid_out(load(arguments.file), arguments)
    results = [
        {
            "path": "/".join(located.names),
            "x": round(located.rect.x, 4),
            "y": round(located.rect.y, 4),
            "width": round(located.rect.width, 4),
            "height": round(located.rect.height, 4),
        }
        for located in locate(scene, placed, name)
    ]
    if arguments.json:
        print(json.dumps(results, indent=1, ensure_ascii=False))
        return 0
    for node in results:
        numbers = "".join(f"{node[key]:>10g}" for key in ("x", "y", "width", "height"))
        print(f"{numbers}  {quoted(str(node['path']), _LONGEST_LINE)}")
    return 0


def _shot(arguments: argparse.Namespace) -> int:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    # Here and not above, for the same reason.
    from PyQt6.QtGui import QGuiApplication

    from outgrowth.app.shot import PictureProblem, picture

    document = load(arguments.file)
    scene, placed, _ = _laid_out(document, arguments)
    app = QGuiApplication(sys.argv[:1])
    try:
        cut = arguments.screen is not None
        image = picture(scene, placed, arguments.scale, cut, document.assets)
    except PictureProblem as problem:
        raise UsageProblem(str(problem)) from problem
    if not image.save(str(arguments.out)):
        raise UsageProblem(f"“{arguments.out.name}” cannot be written.")
    del app
    return 0


def _play(arguments: argparse.Namespace) -> int:
    document = load(arguments.file)
    owner = _named(document, arguments.screen or arguments.component)
    script = _script(arguments)
    layout = _layout(document)
    chosen: dict[str, str] = {}
    if isinstance(owner, Component):
        chosen = {k: str(v) for k, v in _chosen(owner, arguments.set).items()}
    else:
        for setting in arguments.set:
            document = _with_choice(document, owner, setting)
    component = isinstance(owner, Component)
    subject = Subject(owner.id, component, Map(chosen), arguments.width)
    runtime = Runtime(Resolver(), layout, document, subject)
    runtime.touch, runtime.reduced_motion = arguments.touch, arguments.reduced_motion
    result = play(runtime, script)
    if arguments.json:
        print(json.dumps(result, indent=1, ensure_ascii=False))
        return 0
    for frame in result:
        values = ", ".join(f"{k} = {v}" for k, v in dict(frame["named"]).items())  # type: ignore[arg-type]  # an object
        print(f"{frame['at']:>8} ms  {quoted(values, _LONGEST_LINE) or 'at rest'}")
    for problem in runtime.problems:
        print(quoted(str(problem), _LONGEST_LINE), file=sys.stderr)
    return 0


def _script(arguments: argparse.Namespace) -> Script:
    try:
        script = read_script(read_file(arguments.script), arguments.script.name)
        if arguments.times:
            times = tuple(float(part) for part in arguments.times.split(","))
            script = msgspec.structs.replace(script, times=times)
            check_script(script)
    except OSError as problem:
        name = arguments.script.name
        raise UsageProblem(f"“{name}” cannot be read: {problem.strerror}.") from problem
    except Refusal as problem:
        raise UsageProblem(str(problem)) from problem
    except ValueError as problem:
        raise UsageProblem(f"“{arguments.times}” are no times; write 0,100,300.") from problem
    return script


def _laid_out(document: Document, arguments: argparse.Namespace) -> tuple[SceneNode, Placed, str]:
    """The scene that a command is about, laid out, and what its root is called."""
    owner = _named(document, arguments.screen or arguments.component)
    resolver, layout = Resolver(), _layout(document)
    if isinstance(owner, Component):
        variant = _chosen(owner, arguments.set)
        instance_input = InstanceInput(owner.id, tuple(sorted(variant.items())))
        scene = resolver.instance(document, instance_input)
    else:
        for setting in arguments.set:
            document = _with_choice(document, owner, setting)
        scene = resolver.screen(document, document.screens[owner.id])
    room = float("inf") if arguments.width is None else arguments.width
    return scene, layout.place(scene.layout, room), owner.name


def _layout(document: Document) -> Layout:
    """Over the shipped fonts and those that the file carries."""
    return Layout(Typesetter(shipped(FONTS).also(carried(document.assets))))


def _named(document: Document, name: str) -> Owner:
    for owner in document.owners():
        if name in (owner.name, owner.name.rpartition("/")[2], owner.id):
            return owner
    names = ", ".join(owner.name for owner in document.owners())
    raise UsageProblem(f"There is no “{name}” in this file. It has: {names}.")


def _chosen(component: Component, settings: list[str]) -> dict[str, Literals]:
    """The component's variant that the settings ask for."""
    chosen: dict[str, Literals] = {}
    for setting in settings:
        name, _, value = setting.partition("=")
        chosen |= _choice(component, name.rpartition(":")[2], value)
    return chosen


def _choice(component: Component, name: str, value: str) -> dict[str, Literals]:
    """An axis value or a property value by names, as ids."""
    for axis in component.axes:
        if axis.name == name:
            result = axis.named(value)
            if result is None:
                names = ", ".join(v.name for v in axis.values)
                raise UsageProblem(f"{name} cannot be “{value}”; it can be: {names}.")
            return {axis.id: result.id}
    for prop in component.properties:
        if prop.name == name:
            return {prop.id: _read(prop, value)}
    names = ", ".join([a.name for a in component.axes] + [p.name for p in component.properties])
    raise UsageProblem(f"“{component.name}” has no “{name}”. It has: {names or 'nothing to set'}.")


def _read(prop: ComponentProperty, text: str) -> Literals:
    """A property's value as it is typed: yes or no for a switch, else as in a file."""
    if prop.kind == "switch":
        return text.lower() in ("yes", "on", "true")
    try:
        if prop.kind == "number":
            return PROPERTY_TYPES["number"].check(float(text))
        return PROPERTY_TYPES[prop.kind].read(text)
    except ValueError as problem:
        raise UsageProblem(f"{prop.name}: {problem}") from problem


def _with_choice(document: Document, owner: Owner, setting: str) -> Document:
    """The document with an instance on a screen set, found by its path of names."""
    owner_name, _, rest = setting.partition(":")
    name, _, value = rest.partition("=")
    scene = Resolver().screen(document, owner)
    placed = _layout(document).place(scene.layout)
    for located in locate(scene, placed, owner.name):
        if "/".join(located.names[1:]) == owner_name and located.scene.component:
            choice = _choice(document.components[located.scene.component], name, value)
            values = {CHOICE + key: held for key, held in choice.items()}
            return set_properties(document, Place(owner.id, located.path), dict(values))
    raise UsageProblem(f"There is no instance at “{owner_name}” on “{owner.name}”.")


if __name__ == "__main__":
    sys.exit(main())
