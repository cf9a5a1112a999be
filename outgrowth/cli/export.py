"""Handing over on the command line: for developers and build servers.

outgrowth export FILE -o DIR [--component NAME …] [--screen NAME …] [--prefix hs]
                 [--svg] [--png 1,2] [--check] [--overwrite]
"""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

from outgrowth.cli.exit_codes import ExitCode, Subcommands, WrongUse, line, remark
from outgrowth.cli.owners import layout_of, owner_named
from outgrowth.cli.reading import read_document
from outgrowth.cli.writing import written
from outgrowth.core.document.records import Document
from outgrowth.core.exchange.output import HAND_OVER, OutputPlan, plan
from outgrowth.core.exchange.variant_pictures import VariantPicture
from outgrowth.core.exchange.web.files import Wanted
from outgrowth.core.refusal import quoted
from outgrowth.workspace.handing_over import PictureFormats, Rasterize, made

_SCALES = (1.0, 2.0, 3.0, 4.0)


def add_commands(commands: Subcommands) -> None:
    """Adds the command of this file to those of the program."""
    export = commands.add_parser("export", help="hand over as web code, tokens and pictures")
    export.add_argument("file", type=Path)
    export.add_argument("-o", "--out", type=Path, required=True, metavar="DIR")
    for what in ("component", "screen"):
        export.add_argument(
            f"--{what}", action="append", metavar="NAME", help=f"a {what}; all without any"
        )
    export.add_argument(
        "--prefix", default="", help="what element names begin with; else the file's initials"
    )
    export.add_argument("--svg", action="store_true", help="every variant as SVG, too")
    export.add_argument("--png", metavar="1,2", help="every variant as PNG at these scales, too")
    export.add_argument(
        "--check", action="store_true", help="write nothing; end with 1 if it would"
    )
    export.add_argument("--overwrite", action="store_true", help="files edited by hand, too")
    export.set_defaults(act=_export)


def _export(arguments: argparse.Namespace) -> ExitCode:
    document = read_document(arguments.file)
    layout = layout_of(document)
    scales = _scales(arguments.png)
    pictures = PictureFormats(arguments.svg, scales)
    rasterize = _rasterizer(document) if scales else None
    made_files = made(document, layout, _wanted(document, arguments), pictures, rasterize)
    for renamed in made_files.names.renamed:
        remark(f"{renamed.what}: “{renamed.before}” is {renamed.after} in the code.")
    for problem in made_files.problems:
        remark(problem)
    if arguments.check:
        intended = plan(arguments.out, made_files.files)
        _tell(intended, "would be ")
        return ExitCode.DONE if intended.does_nothing else ExitCode.FOUND
    done = written(arguments.out, made_files.files, arguments.overwrite, HAND_OVER)
    _tell(done, "", arguments.overwrite)
    return ExitCode.DONE


def _wanted(document: Document, arguments: argparse.Namespace) -> Wanted:
    """What is asked for, by names; components alone ask for no screens, and the other way round
    screens bring what stands on them."""
    if arguments.component is None and arguments.screen is None:
        return Wanted(prefix=arguments.prefix)
    components = tuple(
        owner_named(document.in_order(), name, "component").id for name in arguments.component or ()
    )
    screens = tuple(
        owner_named(document.screens_in_order(), name, "screen").id
        for name in arguments.screen or ()
    )
    return Wanted(components, screens, arguments.prefix)


def _scales(text: str | None) -> tuple[float, ...]:
    try:
        scales = tuple(float(part) for part in text.split(",")) if text else ()
    except ValueError:
        scales = (0.0,)
    if any(scale not in _SCALES for scale in scales):
        raise WrongUse(f"“{quoted(str(text), 40)}” are no scales; write some of 1,2,3,4.")
    return scales


def _rasterizer(document: Document) -> Rasterize:
    """Draws with Qt, which needs no display for it."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    # Here and not above: code alone needs no Qt, and Qt takes long to import.
    from PyQt6.QtGui import QGuiApplication

    from outgrowth.app.shot import rasterizer

    app = QGuiApplication.instance() or QGuiApplication(sys.argv[:1])
    rasterize = rasterizer(document)

    def held(drawn: VariantPicture, scale: float) -> bytes:
        assert app is not None, "it lives as long as something is drawn"
        return rasterize(drawn, scale)

    return held


def _tell(done: OutputPlan, how: str, overwrote: bool = False) -> None:
    for what, paths in (("new", done.new), ("changed", done.changed), ("gone", done.gone)):
        for path in paths:
            print(f"{how}{what}: {line(path)}")
    for path in done.edited:
        kept = "kept; --overwrite writes over it"
        if path in done.torn:
            kept = "it would have to change; nothing is written without --overwrite"
        then = "written over" if overwrote else kept
        print(f"edited by hand: {line(path)} ({then})")
    print(f"{len(done.same):,} files are as they were.")
