"""Count what the rules of names and layout forbid: ``python scripts/language.py``; ``--check`` fails where any grew.

``docs/language.md`` says the rules. A number may only fall; when it has fallen, write the new one into LIMITS.
"""

from __future__ import annotations

import ast
import re
import sys
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parents[1] / "src" / "young_tremor"
MAX_PARAMETERS = 7
MAX_BRANCHES = 12
#: Names that say nothing of what they hold.
WEAK = frozenset(
    [
        "each",
        "found",
        "made",
        "one",
        "told",
        "it",
        "given",
        "seen",
        "said",
        "kept",
        "knocked",
        "asked",
        "listed",
        "prepared",
        "taken",
        "held",
        "wanted",
        "known",
    ]
)
#: Methods that a protocol or a base class of ours or of a library describes.
INHERITED = frozenset(
    [
        "info",
        "read",
        "close",
        "write",
        "finish",
        "abandon",
        "draw",
        "start",
        "stop",
        "heard",
        "list_commands",
        "get_command",
        "format_commands",
        "show_strand",
        "paint",
    ]
)
#: What there may be at the most: it may only fall.
LIMITS = {
    "lines that the formatter leaves alone": 0,
    "classes that share a name": 0,
    "weak names": 420,
    "functions with too many parameters": 0,
    "functions with too many branches": 81,
    "public names without a docstring": 0,
    "Any": 256,
    "lambdas": 528,
}

_BRANCHES = (ast.If, ast.For, ast.AsyncFor, ast.While, ast.ExceptHandler, ast.IfExp, ast.Assert, ast.comprehension)


def trees() -> Iterator[tuple[Path, str, ast.Module]]:
    """Every module of the package: its path, text and tree."""
    for path in sorted(SOURCE.rglob("*.py")):
        text = path.read_text(encoding="utf-8")
        yield path.relative_to(SOURCE), text, ast.parse(text)


def parameters(function: ast.FunctionDef) -> int:
    """How many parameters a function has, itself left out."""
    names = [argument.arg for argument in (*function.args.posonlyargs, *function.args.args, *function.args.kwonlyargs)]
    return len([name for name in names if name not in ("self", "cls")])


def branches(function: ast.FunctionDef) -> int:
    """One more than its decisions (T. McCabe, 1976); functions inside count for themselves."""
    count, waiting = 1, list(ast.iter_child_nodes(function))
    while waiting:
        node = waiting.pop()
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef | ast.Lambda):
            continue
        count += isinstance(node, _BRANCHES) + (len(node.values) - 1 if isinstance(node, ast.BoolOp) else 0)
        waiting += ast.iter_child_nodes(node)
    return count


def public(body: list[ast.stmt]) -> Iterator[ast.FunctionDef | ast.ClassDef]:
    """Public functions and classes of a module, and public methods of its public classes. Not those of protocols and of
    the toolkit's or a base class's names, which are described where they come from."""
    for node in body:
        if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
            yield node
            if not any(isinstance(base, ast.Name) and base.id == "Protocol" for base in node.bases):
                yield from public(node.body)
        elif isinstance(node, ast.FunctionDef) and re.fullmatch("[a-z][a-z0-9_]*", node.name):
            yield from () if node.name in INHERITED else (node,)


def count() -> dict[str, list[str]]:
    """Where each rule is broken."""
    found: dict[str, list[str]] = {rule: [] for rule in LIMITS}
    classes: Counter[str] = Counter()
    for path, text, tree in trees():
        for number, line in enumerate(text.splitlines(), start=1):
            if "fmt: " + "skip" in line or "fmt: " + "off" in line:
                found["lines that the formatter leaves alone"].append(f"{path}:{number}")
        for node in public(tree.body):
            if ast.get_docstring(node) is None:
                found["public names without a docstring"].append(f"{path}:{node.lineno} {node.name}")
        for node in ast.walk(tree):
            where = f"{path}:{getattr(node, 'lineno', 0)}"
            if isinstance(node, ast.ClassDef):
                classes[node.name] += 1
            if isinstance(node, ast.FunctionDef):
                if parameters(node) > MAX_PARAMETERS:
                    found["functions with too many parameters"].append(f"{where} {node.name} {parameters(node)}")
                if branches(node) > MAX_BRANCHES:
                    found["functions with too many branches"].append(f"{where} {node.name} {branches(node)}")
            names = [node.id] if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store) else []
            names += [node.arg] if isinstance(node, ast.arg) else []
            names += [node.name] if isinstance(node, ast.FunctionDef | ast.ClassDef) else []
            found["weak names"] += [f"{where} {name}" for name in names if name.lstrip("_") in WEAK]
            if isinstance(node, ast.Name) and node.id == "Any":
                found["Any"].append(where)
            if isinstance(node, ast.Lambda):
                found["lambdas"].append(where)
    found["classes that share a name"] = [name for name, times in classes.items() if times > 1]
    return found


def main() -> int:
    grown = False
    for rule, places in count().items():
        limit = LIMITS[rule]
        grown |= len(places) > limit
        print(f"{len(places):5} of {limit:5}  {rule}")
        if "--list" in sys.argv or ("--check" in sys.argv and len(places) > limit):
            print("\n".join(f"             {place}" for place in places))
    return int(grown and "--check" in sys.argv)


if __name__ == "__main__":
    sys.exit(main())
