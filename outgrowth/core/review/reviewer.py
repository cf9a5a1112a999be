"""The whole review of a document, subject by subject and owner by owner: what an edit did not
touch is not looked at again."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator
from typing import NamedTuple

from outgrowth.core.document.extent import shown_within
from outgrowth.core.document.records import Component, Document, Owner, walk
from outgrowth.core.document.referring import token_paths
from outgrowth.core.edits.motions import motions_of, waits_of
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.layout import Layout
from outgrowth.core.memo import ByIdentity
from outgrowth.core.review.code_names import (
    code_findings,
    renamed_findings,
    same_name_findings,
)
from outgrowth.core.review.contrast import contrast_findings
from outgrowth.core.review.finding import SUBJECTS, Finding, ReviewSubject
from outgrowth.core.review.kept import kept_findings
from outgrowth.core.review.letters import letter_findings
from outgrowth.core.review.names import name_findings
from outgrowth.core.review.roles import role_findings
from outgrowth.core.review.rooms import room_findings
from outgrowth.core.review.rules import rule_findings
from outgrowth.core.review.scale import spacing_findings, step_of
from outgrowth.core.review.seen import seen_findings
from outgrowth.core.review.sizes import layout_findings
from outgrowth.core.review.spelling import spelling_findings
from outgrowth.core.review.states import state_findings, way_findings
from outgrowth.core.review.system import file_findings, named_by, system_findings
from outgrowth.core.review.targets import comfort_findings, target_findings
from outgrowth.core.review.twins import Models, models, near_equal_findings, twin_findings
from outgrowth.core.review.views import Pixels, ReviewContext, ViewRenderer
from outgrowth.core.trials.sheet import Trials

_Findings = tuple[Finding, ...]
_Inputs = tuple[object, ...]
_Looked = Iterator[Finding | None]
"""Findings, and None wherever there may be a pause."""
Check = Callable[[ReviewContext, Owner], Iterable[Finding | None]]


class Reviewed(NamedTuple):
    """How far a review is: `share` of all there is to look at is done, `subject` is looked at;
    the last one, with a share of 1, has all `findings`."""

    share: float
    subject: ReviewSubject
    findings: _Findings


class _RememberedFindings(NamedTuple):
    inputs: _Inputs
    findings: _Findings


class Reviewer:
    """Reviews documents, one after the other. What it found of an owner holds as long as the
    owner, all components that it may show, and the tokens that these name are the very same."""

    def __init__(self, layout: Layout, pixels: Pixels = lambda _: None) -> None:
        self._renderer = ViewRenderer(layout, pixels)
        self._trials = Trials(layout)
        self._kept: dict[tuple[str, str], _RememberedFindings] = {}
        self._models: Models = {}
        self._checks: dict[ReviewSubject, tuple[str, Check]] = {
            "contrast": ("contrast", contrast_findings),
            "targets": ("targets", target_findings),
            "states": ("states", _all_of(state_findings, seen_findings, room_findings)),
            "names": ("names", _all_of(name_findings, role_findings)),
            "system": ("system", system_findings),
            "rules": ("rules", rule_findings),
            "layout": ("layout", _all_of(layout_findings, letter_findings)),
            "hand-over": ("code", lambda _, owner: code_findings(owner)),
            "trials": ("kept", self._kept_trials),
        }

    def findings(self, document: Document, only: Collection[ReviewSubject] = SUBJECTS) -> _Findings:
        """All that a careful colleague would point at, of these subjects, in their order."""
        results: _Findings = ()
        for reviewed in self.steps(document, only):
            results = reviewed.findings
        return results

    def steps(
        self, document: Document, only: Collection[ReviewSubject] = SUBJECTS
    ) -> Iterator[Reviewed]:
        """The same in small steps; the last one has all findings."""
        context = ReviewContext(document, self._renderer)
        owners = list(document.owners())
        inputs = {owner.id: _inputs(document, owner) for owner in owners}
        subjects = [subject for subject in SUBJECTS if subject in only]
        results: list[Finding] = []
        total, finished = max(len(subjects) * (len(owners) + 1), 1), 0
        for subject in subjects:
            for findings in [*self._of_owners(subject, context, owners, inputs)]:
                for finding in findings:
                    if finding is not None:
                        results.append(finding)
                    else:
                        yield Reviewed(finished / total, subject, ())
                finished += 1
            for finding in self._of_file(subject, context, owners, inputs):
                if finding is not None:
                    results.append(finding)
                else:
                    yield Reviewed(finished / total, subject, ())
            finished += 1
        yield Reviewed(1.0, SUBJECTS[-1], tuple(results))

    def _of_owners(
        self,
        subject: ReviewSubject,
        context: ReviewContext,
        owners: list[Owner],
        inputs: dict[str, _Inputs],
    ) -> Iterator[_Looked]:
        more: _Inputs = ()
        if subject in ("contrast", "system"):  # what is offered instead may be any token
            more = (context.document.tokens, context.document.modes)
        elif subject == "layout":
            more = (context.renderer.layout.typesetter.fonts,)
        elif subject == "trials":
            more = (context.document.keeping.checks,)
        for owner in owners:
            name, check = self._checks[subject]
            decisive = (*inputs[owner.id], *more)
            yield self._remembered((name, owner.id), decisive, check, context, owner)

    def _remembered(
        self,
        key: tuple[str, str],
        inputs: _Inputs,
        check: Check,
        context: ReviewContext,
        owner: Owner,
    ) -> _Looked:
        """What a check finds in an owner; None where it may be interrupted."""
        memory = self._kept.get(key)
        if memory is None or not _same(memory.inputs, inputs):
            findings: list[Finding] = []
            for finding in check(context, owner):
                if finding is None:
                    yield None
                else:
                    findings.append(finding)
            memory = self._kept[key] = _RememberedFindings(inputs, tuple(findings))
            yield None
        yield from memory.findings

    def _kept_trials(self, context: ReviewContext, owner: Owner) -> Iterator[Finding]:
        return kept_findings(context, owner, self._trials)

    # --- of the file ------------------------------------------------------------------------

    def _of_file(
        self,
        subject: ReviewSubject,
        context: ReviewContext,
        owners: list[Owner],
        inputs: dict[str, _Inputs],
    ) -> _Looked:
        document = context.document
        if subject == "targets":
            yield from comfort_findings(context)
        elif subject == "states":
            yield from way_findings(context)
        elif subject == "hand-over":
            yield from same_name_findings(document)
            yield from self._taken_names(document, owners)
        elif subject == "system":
            yield from file_findings(document)
            yield from spelling_findings(document)
            yield None
            step = step_of(document)
            for owner in owners if step is not None else ():
                yield from self._off_scale(context, owner, step or 1.0, inputs[owner.id])
            yield from near_equal_findings(context)
            yield None
            yield from self._twins(context, owners, inputs)

    def _taken_names(self, document: Document, owners: list[Owner]) -> _Looked:
        """Names are one another's: they are looked at together, where one of them is another."""
        spoken = tuple(_spoken_in(owner) for owner in owners)
        memory = self._kept.get(("taken", ""))
        if memory is None or memory.inputs != spoken:
            names = Names(document)
            renamed = (renamed_findings(c, names) for c in document.in_order())
            memory = _RememberedFindings(spoken, tuple(item for items in renamed for item in items))
            self._kept["taken", ""] = memory
            yield None
        yield from memory.findings

    def _off_scale(
        self, context: ReviewContext, owner: Owner, step: float, inputs: _Inputs
    ) -> _Looked:
        def check(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
            return spacing_findings(context.document, owner, step)

        return self._remembered(("scale", owner.id), (*inputs, step), check, context, owner)

    def _twins(
        self, context: ReviewContext, owners: list[Owner], inputs: dict[str, _Inputs]
    ) -> _Looked:
        """Any component may be what a drawn part looks like: all of them are given."""
        components = context.document.in_order()
        everything = tuple(record for owner in components for record in inputs[owner.id])
        memory = self._kept.get(("models", ""))
        if memory is None or not _same(memory.inputs, everything):
            self._models = models(context)
            self._kept["models", ""] = _RememberedFindings(everything, ())
            yield None
        known_models = self._models

        def check(context: ReviewContext, owner: Owner) -> Iterator[Finding | None]:
            return twin_findings(context, owner, known_models)

        for owner in owners:
            decisive = (*inputs[owner.id], known_models)
            yield from self._remembered(("twins", owner.id), decisive, check, context, owner)


def _all_of(*checks: Check) -> Check:
    """Several checks as one."""

    def check(context: ReviewContext, owner: Owner) -> Iterator[Finding | None]:
        for each in checks:
            yield from each(context, owner)

    return check


def _same(first: _Inputs, second: _Inputs) -> bool:
    if len(first) != len(second):
        return False
    return all(
        a is b or (type(a) in (str, float) and a == b) for a, b in zip(first, second, strict=True)
    )


def _inputs(document: Document, owner: Owner) -> _Inputs:
    """All that decides how an owner looks and behaves: it, what it may show, tokens, the mode, and
    whether the screens are there that its cues lead to."""
    owners = shown_within(document, owner)
    paths = set[str]().union(*[_tokens_of(inner) for inner in owners])
    waiting = sorted(paths)
    tokens: list[object] = []
    for path in waiting:
        token = document.tokens.get(path)
        tokens.append(token)
        values = (token.value, *token.modes.values()) if token is not None else ()
        new = {p for value in values for p in token_paths(value)} - paths
        paths |= new
        waiting += sorted(new)
    changes = (change for cue in owner.behaviour.cues for change in cue.changes)
    gone = {c.name for c in changes if c.act == "go" and c.name not in document.screens}
    return (*owners, *tokens, document.mode, document.motion, *sorted(gone))


def _all_tokens(owner: Owner) -> frozenset[str]:
    timed = (*motions_of(owner), *waits_of(owner))
    said = {path for value in timed for path in token_paths(value)}
    return named_by(owner) | said


_tokens_of = ByIdentity(_all_tokens, 4096)


def _all_spoken(owner: Owner) -> tuple[str, ...]:
    """All names in an owner that become names in the code, and what their kinds are."""
    names = [owner.name, *(node.name for node in walk(owner.root))]
    for axis in owner.axes if isinstance(owner, Component) else ():
        names += [axis.name, axis.driver, axis.meaning, *(value.name for value in axis.values)]
    for prop in owner.properties if isinstance(owner, Component) else ():
        names += [prop.id, prop.name, prop.kind]
    return tuple(names)


_spoken_in = ByIdentity(_all_spoken, 4096)


def review(
    document: Document, layout: Layout, only: Collection[ReviewSubject] = SUBJECTS
) -> _Findings:
    """All that a careful colleague would point at, of these subjects, in their order."""
    return Reviewer(layout).findings(document, only)
