"""The structure reference, made from the declarations of the families."""

from __future__ import annotations

from yawning_lantern.measure import format_length
from yawning_lantern.structures import Family, Parameter, families


def _default(p: Parameter) -> str:
    if p.derived:
        return "worked out"
    if p.default is None:
        return ""
    if p.kind == "length" and not isinstance(p.default, str):
        return format_length(float(p.default))
    return str(p.default)


def _family(kind: Family) -> list[str]:
    lines = [f"## {kind.name} (`{kind.id}`)", "", kind.about, "", f"Solved from: {', '.join(kind.starts)}."]
    lines += ["", "| parameter | kind | usual | what it is |", "| --- | --- | --- | --- |"]
    for p in kind.parameters:
        what = f"{p.kind}: {', '.join(p.words)}" if p.words else p.kind
        lines.append(f"| `{p.id}` | {what} | {_default(p)} | {p.label}. {p.help} |")
    lines += ["", "Faces: " + ("; ".join(f"`{face}` ({words})" for face, words in kind.faces) or "none") + ".", ""]
    return lines


def reference() -> str:
    """The whole page as Markdown."""
    head = [
        "# Structures",
        "",
        "Made from the declarations in the code. `./lantern families --markdown` prints this page.",
        "",
    ]
    return "\n".join(head + [line for kind in families().values() for line in _family(kind)])
