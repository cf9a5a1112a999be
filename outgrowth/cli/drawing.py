"""What a file holds, measured, drawn and played without a window.

outgrowth measure FILE --screen NAME --json          every node's rectangle
outgrowth shot FILE --component NAME -o PICTURE.png  a picture
outgrowth play FILE --screen NAME --script S.json    a recorded script
"""

from __future__ import annotations

import argparse
import json
import os
import sys
from pathlib import Path

import msgspec
from immutables import Map

from outgrowth.cli.exit_codes import ExitCode, Subcommands, WrongUse, line, remark
from outgrowth.cli.owners import (
    add_owner_arguments,
    chosen_values,
    layout_of,
    number,
    owner_asked,
    with_instance_set,
)
from outgrowth.cli.reading import read_document
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.exchange.native.disk import read_chosen, save_file
from outgrowth.core.layout import Placed
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import Script, check_script, play, read_script


def add_commands(commands: Subcommands) -> None:
    """Adds the commands of this file to those of the program."""
    measure = commands.add_parser("measure", help="print every node's rectangle")
    _add_subject_arguments(measure)
    measure.add_argument("--json", action="store_true", help="as JSON instead of a table")
    measure.set_defaults(act=_measure)
    shot = commands.add_parser("shot", help="draw without a window")
    _add_subject_arguments(shot)
    shot.add_argument("-o", "--out", type=Path, required=True, metavar="PNG")
    shot.add_argument("--scale", type=number, default=1.0)
    shot.set_defaults(act=_shot)
    play = commands.add_parser("play", help="play a recorded script without a window")
    _add_subject_arguments(play)
    play.add_argument("--script", type=Path, required=True, metavar="JSON")
    play.add_argument("--times", help="when to look, in ms: 0,100,300 (else as the script says)")
    play.add_argument("--touch", action="store_true", help="by a finger, which does not hover")
    play.add_argument("--reduced-motion", action="store_true", help="every change is a cut")
    play.add_argument("--json", action="store_true", help="as JSON instead of a table")
    play.set_defaults(act=_play)


def _add_subject_arguments(parser: argparse.ArgumentParser) -> None:
    """Which component or screen, what is set in it, and how wide it may be."""
    add_owner_arguments(parser)
    parser.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="[PATH:]NAME=VALUE",
        help="an axis or property of the component by name, or of the instance at a path of "
        "names on the screen: --set 'header/back button:State=hover'",
    )
    parser.add_argument("--width", type=number, help="the room across, for what grows or wraps")
    parser.add_argument("--rtl", action="store_true", help="read from right to left")


def _measure(arguments: argparse.Namespace) -> ExitCode:
    scene, placed, name = _laid_out(read_document(arguments.file), arguments)
    rectangles = [
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
        print(json.dumps(rectangles, indent=1, ensure_ascii=False))
        return ExitCode.DONE
    for node in rectangles:
        numbers = "".join(f"{node[key]:>10g}" for key in ("x", "y", "width", "height"))
        print(f"{numbers}  {line(str(node['path']))}")
    return ExitCode.DONE


def _shot(arguments: argparse.Namespace) -> ExitCode:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    # Here and not above, for the same reason.
    from PyQt6.QtGui import QGuiApplication

    from outgrowth.app.shot import encoded, picture

    document = read_document(arguments.file)
    scene, placed, _ = _laid_out(document, arguments)
    app = QGuiApplication(sys.argv[:1])
    cut = arguments.screen is not None
    image = picture(scene, placed, arguments.scale, cut, document.assets)
    save_file(arguments.out, encoded(image, arguments.out.suffix[1:] or "PNG"))
    del app
    return ExitCode.DONE


def _play(arguments: argparse.Namespace) -> ExitCode:
    document = read_document(arguments.file)
    owner = owner_asked(document, arguments)
    script = _timed(_script(arguments))
    layout = layout_of(document)
    chosen: dict[str, str] = {}
    if isinstance(owner, Component):
        chosen = {k: str(v) for k, v in chosen_values(owner, arguments.set).items()}
    else:
        for setting in arguments.set:
            document = with_instance_set(document, owner, setting)
    component = isinstance(owner, Component)
    subject = Subject(owner.id, component, Map(chosen), arguments.width, rtl=arguments.rtl)
    runtime = Runtime(Resolver(), layout, document, subject)
    runtime.touch, runtime.reduced_motion = arguments.touch, arguments.reduced_motion
    frames = play(runtime, script)
    late = sum(event.at > max(script.times, default=0.0) for event in script.events)
    if late:
        those = "One event comes" if late == 1 else f"{late} events come"
        last = max(script.times, default=0.0)
        remark(f"{those} after the last look at {last:g} ms, and was not played; look later.")
    if arguments.json:
        print(json.dumps(frames, indent=1, ensure_ascii=False))
        return ExitCode.DONE
    for frame in frames:
        values = ", ".join(f"{k} = {v}" for k, v in dict(frame["named"]).items())  # type: ignore[arg-type]  # an object
        print(f"{frame['at']:>8} ms  {line(values) or 'at rest'}")
    for problem in runtime.problems:
        remark(str(problem))
    return ExitCode.DONE


def _script(arguments: argparse.Namespace) -> Script:
    script = read_script(read_chosen(arguments.script), arguments.script.name)
    return _looked_at(script, arguments.times) if arguments.times else script


def _timed(script: Script) -> Script:
    """A script that says when to look; of one that does not, at every event, and that is told."""
    if script.times:
        return script
    remark("The script says no times to look, so it is looked at with every event; see --times.")
    times = tuple(sorted({event.at for event in script.events})) or (0.0,)
    return msgspec.structs.replace(script, times=times)


def _looked_at(script: Script, times: str) -> Script:
    """The script with other times at which the result is looked at, as they are typed."""
    try:
        typed = tuple(float(part) for part in times.split(","))
        script = msgspec.structs.replace(script, times=typed)
        check_script(script)
    except Refusal as problem:
        raise WrongUse(str(problem)) from problem
    except ValueError as problem:
        raise WrongUse(f"“{times}” are no times; write 0,100,300.") from problem
    return script


def _laid_out(document: Document, arguments: argparse.Namespace) -> tuple[SceneNode, Placed, str]:
    """The scene that a command is about, laid out, and what its root is called."""
    owner = owner_asked(document, arguments)
    resolver, layout = Resolver(), layout_of(document)
    if isinstance(owner, Component):
        variant = chosen_values(owner, arguments.set)
        choices = tuple(sorted(variant.items()))
        scene = resolver.instance(document, InstanceInput(owner.id, choices, rtl=arguments.rtl))
    else:
        for setting in arguments.set:
            document = with_instance_set(document, owner, setting)
        scene = resolver.screen(document, document.screens[owner.id], rtl=arguments.rtl)
    room = float("inf") if arguments.width is None else arguments.width
    return *layout.view(scene, room, takes_all=isinstance(owner, Screen)), owner.name
