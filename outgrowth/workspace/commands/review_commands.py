"""What is done from Review and Trials: mending, waiving, keeping trials, filling lists with
rows."""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.keeping import ALL, Waiver
from outgrowth.core.document.records import Document, Owner
from outgrowth.core.edits.keeping import drop_check, keep_check, stand_again, waive
from outgrowth.core.refusal import Refusal
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.report import waiver_of, waivers_of
from outgrowth.core.trials.contents import TrialContent, with_content
from outgrowth.core.trials.rows import fill_list, list_at
from outgrowth.core.trials.sheet import Trial, kept
from outgrowth.workspace.workspace import Workspace


def mended(document: Document, findings: Sequence[Finding]) -> Document:
    """The document with all these mended that can be; one whose mend no longer fits is left."""
    for finding in findings:
        if finding.mend is None:
            continue
        try:
            document = finding.mend.change(document)
        except Refusal:
            continue
    return document


def mend(workspace: Workspace, findings: Sequence[Finding]) -> bool:
    """Mends, as one step."""
    if len(findings) == 1 and findings[0].mend is not None:
        return workspace.edit(findings[0].mend.title, findings[0].mend.change)
    return workspace.edit(f"mend {len(findings)}", lambda document: mended(document, findings))


def waive_findings(
    workspace: Workspace, findings: Sequence[Finding], reason: str, standing: Sequence[Finding]
) -> bool:
    """Waives findings for a reason, as one step; False without one. Where these are several,
    and all that stand of their kind in an owner, one waiver is for all of them, and for those
    that come."""
    if not reason.strip():
        workspace.failed.emit("Say why it may stay: the reason is kept in the file.")
        return False
    groups: dict[tuple[str, str], list[Finding]] = {}
    for finding in findings:
        groups.setdefault((finding.owner, finding.kind), []).append(finding)
    waivers: list[Waiver] = []
    for (owner, kind), group in groups.items():
        same = [f for f in standing if (f.owner, f.kind) == (owner, kind)]
        if len(group) > 1 and len(group) == len(same):
            waivers.append(Waiver(owner, kind, (), ALL, reason.strip()))
        else:
            waivers += [Waiver(owner, kind, f.node, f.about, reason.strip()) for f in group]
    name = "waive a finding" if len(findings) == 1 else f"waive {len(findings)} findings"
    return workspace.edit(name, lambda document: waive(document, waivers))


def let_stand(workspace: Workspace, findings: Sequence[Finding]) -> bool:
    """Lets findings that were waived stand again, as one step; all of those that were waived
    together."""
    waivers = waivers_of(workspace.document)
    keys = [w.key for f in findings if (w := waiver_of(waivers, f)) is not None]
    return workspace.edit("let it stand again", lambda document: stand_again(document, keys))


def keep_trial(workspace: Workspace, owner: Owner, trial: Trial) -> bool:
    """Keeps a trial in the file, so that every edit is tried against it."""
    return workspace.edit("keep a trial", lambda d: keep_check(d, kept(owner, trial)))


def drop_trial(workspace: Workspace, owner: Owner, trial: Trial) -> bool:
    """No longer keeps a trial."""
    key = kept(owner, trial).key
    return workspace.edit("no longer keep a trial", lambda document: drop_check(document, key))


def take_content(workspace: Workspace, owner: Owner, content: TrialContent) -> bool:
    """Puts a trial's content into the part itself."""
    name = f"put “{content.title}” into {owner.short_name}"
    return workspace.edit(name, lambda document: with_content(document, owner.id, content))


def list_here(workspace: Workspace) -> str | None:
    """The list of rows that is selected, or that the selected part is in."""
    owner, path = workspace.owner, workspace.selection.path
    if owner is None:
        return None
    return list_at(workspace.document, owner.id, path[0] if path else owner.root.id)


def fill_rows(workspace: Workspace, rows: Sequence[TrialContent]) -> bool:
    """Fills the list here with rows, as one step."""
    owner, box = workspace.owner, list_here(workspace)
    if owner is None or box is None:
        return False
    name = f"fill {len(rows)} rows" if len(rows) != 1 else "fill a row"
    return workspace.edit(name, lambda document: fill_list(document, owner.id, box, rows))
