"""What is done from Review and Trials: mending, waiving, keeping trials, filling lists with
rows."""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.keeping import Waiver
from outgrowth.core.document.records import Document, Owner
from outgrowth.core.document.refusal import Refusal
from outgrowth.core.edits.keeping import drop_check, keep_check, stand_again, waive
from outgrowth.core.review.finding import Finding
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


def waive_findings(workspace: Workspace, findings: Sequence[Finding], reason: str) -> bool:
    """Waives findings for a reason, as one step; False without one."""
    if not reason.strip():
        workspace.failed.emit("Say why it may stay: the reason is kept in the file.")
        return False
    waivers = [Waiver(f.owner, f.kind, f.node, f.about, reason.strip()) for f in findings]
    name = "waive a finding" if len(waivers) == 1 else f"waive {len(waivers)} findings"
    return workspace.edit(name, lambda document: waive(document, waivers))


def let_stand(workspace: Workspace, findings: Sequence[Finding]) -> bool:
    """Lets findings that were waived stand again, as one step."""
    keys = [finding.key for finding in findings]
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
    name = f"put “{content.title}” into {owner.name.rpartition('/')[2]}"
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
