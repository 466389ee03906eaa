"""The same job from a terminal: read a batter, show its ledger, adapt it, start the server."""

import argparse
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

from mutabilis import __version__

if TYPE_CHECKING:
    from .core.batter.batter import Batter
    from .core.food.ingredients import Ingredient
    from .store.kitchen import Kitchen

# Looking for plug-ins takes pydantic longer than a ledger takes; there are none.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")
LARGEST_FILE = 200_000  # bytes; a recipe is a page
LARGEST_SERVICE = 2_000_000  # bytes; three hundred guests and a plan for them


class Unreadable(Exception):
    """A file or an argument that cannot be used; its text is the one line the user sees."""


def main(argv: Sequence[str] | None = None) -> int:
    """Run a command. 0, or 2 with one line on standard error."""
    try:
        args = _parser().parse_args(argv)
        return int(args.run(args))
    except Unreadable as error:
        print(f"mutabilis: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="mutabilis", description="Keeps an adapted batter in balance.")
    parser.add_argument("--version", action="version", version=f"mutabilis {__version__}")
    parser.add_argument("--completion", action=_Completion, help="print what makes bash complete commands and options")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, run, about in (
        ("ledger", _ledger, "what a batter is: water, lift, set, nutrition, diets"),
        ("adapt", _adapt, "the same batter for other guests"),
        ("process", _process, "the plan of making: vessels, portions, steps and minutes"),
        ("dry-mix", _dry_mix, "what of a batter can be mixed ahead into a bag, and what is added on the day"),
        ("mend", _mend, "what is at fault in a batter, and the fewest grams that put it right"),
        ("leavening", _leavening, "powder for soda in this very batter, or the reverse: computed, never spoon for spoon"),
    ):
        one = commands.add_parser(name, help=about)
        one.add_argument("file", metavar="FILE", help="plain text, one ingredient a line; - for standard input")
        one.add_argument("--form", choices=("griddle", "waffle", "crepe", "tray"), default="griddle")
        one.add_argument("--rest", type=_minutes, metavar="MIN", help="minutes of rest; by default what the form takes")
        one.add_argument(
            "--temperature",
            type=_celsius,
            default=21.0,
            metavar="C",
            help="of the rest, in °C: 4 for a night in the cold",
        )
        one.add_argument("--blender", action="store_true", help="made in a blender, where flours drink at once")
        one.add_argument("--servings", type=_amount, metavar="N", help="how many people the batter serves")
        one.add_argument(
            "--kitchen", type=Path, metavar="DIR", help="a folder of the kitchen's own diets, labels, pack readings and profile"
        )
        one.add_argument("--json", action="store_true", help="JSON under stable keys")
        one.set_defaults(run=run)
        if name == "process":
            one.add_argument(
                "--way",
                choices=("two_bowls", "one_bowl", "blender"),
                help="how it is mixed; in two bowls where the batter says nothing else",
            )
            one.add_argument(
                "--wet", choices=("dry", "hot", "last"), help="when the leavening is wetted; by default as the batter wants it"
            )
            one.add_argument("--whites", choices=("soft", "stiff"), help="how whites are whipped; soft where no line says stiff")
            one.add_argument("--bag", action="store_true", help="what can be mixed dry comes out of a bag that was made ahead")
        if name == "dry-mix":
            one.add_argument("--jar", type=_amount, metavar="G", help="grams of mix to make; by default for one batch")
        if name == "leavening":
            one.add_argument("--put", required=True, metavar="NAME", help="what is to be put in")
            one.add_argument("--instead-of", required=True, metavar="NAME", help="what is in the batter now")
        if name == "adapt":
            one.add_argument(
                "--diet",
                action="append",
                default=[],
                metavar="DIET",
                help="vegan, gluten_free and so on; may be given again",
            )
            one.add_argument("--max-net-carb", type=_amount, metavar="G", help="net carbohydrate in a serving at most [g]")
            one.add_argument(
                "--alternatives",
                type=int,
                choices=range(1, 6),
                default=1,
                metavar="N",
                help="answers that differ in kind, 1 to 5",
            )
    plan = commands.add_parser("plan", help="a whole service: who gets what, which surface when, and what begins at which second")
    plan.add_argument("file", metavar="FILE", help="the wishes as JSON; - for standard input")
    plan.add_argument("--seconds", type=_seconds, default=2.0, metavar="N", help="how long better plans are looked for")
    plan.add_argument("--check", metavar="PLAN", help="check a plan of these wishes in place of making one")
    plan.add_argument("--json", action="store_true", help="JSON under stable keys")
    plan.add_argument("--database", type=Path, metavar="BOOK", help="the book that versions are read from")
    plan.set_defaults(run=_plan)
    why = commands.add_parser("diagnose", help="why a batch came out as it did, the one question that would tell most, and what to change")
    why.add_argument("file", metavar="FILE", help="the batch as JSON; - for standard input")
    why.add_argument("--json", action="store_true", help="JSON under stable keys")
    why.set_defaults(run=_diagnose)
    serve = commands.add_parser("serve", help="the application on 127.0.0.1")
    serve.add_argument("--database", type=Path, default=Path("mutabilis.sqlite3"))
    serve.add_argument("--port", type=int, default=8765)
    serve.add_argument("--demo", action="store_true", help="fill an empty database with the demo scenario")
    serve.add_argument("--no-log", action="store_true", help="with --demo: without the batches of the last six weeks")
    serve.set_defaults(run=_serve)
    for name, run, about, file in (
        ("backup", _backup, "a whole copy of a book in one file, also while it is open", "where the copy goes"),
        ("restore", _restore, "put a backup in the place of a book; what was there is copied first", "the backup"),
    ):
        one = commands.add_parser(name, help=about)
        one.add_argument("--database", type=Path, default=Path("mutabilis.sqlite3"), metavar="BOOK")
        one.add_argument("file", type=Path, metavar="FILE", help=file)
        one.set_defaults(run=run)
    return parser


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise Unreadable(message)


class _Completion(argparse.Action):
    """Prints a script for bash: the commands, and the long options of each; a file where nothing else is asked for."""

    def __init__(self, option_strings: Sequence[str], dest: str, **more: Any) -> None:
        super().__init__(option_strings, dest, nargs=0, default=argparse.SUPPRESS, **more)

    def __call__(self, parser: argparse.ArgumentParser, *_: object) -> NoReturn:
        commands = next(a for a in parser._actions if isinstance(a, argparse._SubParsersAction)).choices
        cases = "".join(f"    {name}) options='{' '.join(_options(one))}' ;;\n" for name, one in commands.items())
        print(
            "_mutabilis() {\n  local word=${COMP_WORDS[COMP_CWORD]} options=''\n  case ${COMP_WORDS[1]} in\n"
            f"{cases}  esac\n"
            f"  if [ \"$COMP_CWORD\" = 1 ]; then options='{' '.join([*commands, *_options(parser)])}'; fi\n"
            '  if [ "$COMP_CWORD" = 1 ] || [[ $word == -* ]]; then COMPREPLY=($(compgen -W "$options" -- "$word")); else COMPREPLY=($(compgen -f -- "$word")); fi\n'
            "}\ncomplete -o filenames -F _mutabilis mutabilis"
        )
        parser.exit()


def _options(parser: argparse.ArgumentParser) -> list[str]:
    return [o for a in parser._actions for o in a.option_strings if o.startswith("--")]


def _number(text: str, low: float, high: float, wanted: str) -> float:
    """A number within its bounds, else one line that says which."""
    try:
        value = float(text)
    except ValueError:
        value = float("nan")
    if not low <= value <= high:
        raise argparse.ArgumentTypeError(f"{text[:40]}: {wanted}")
    return value


def _amount(text: str) -> float:
    return _number(text, 1e-9, 10_000, "a number above 0, at most 10000")


def _minutes(text: str) -> float:
    return _number(text, 0, 5000, "minutes from 0 to 5000")


def _seconds(text: str) -> float:
    return _number(text, 0, 600, "seconds from 0 to 600")


def _celsius(text: str) -> float:
    return _number(text, 0, 45, "degrees from 0 to 45")


def _batter(args: argparse.Namespace) -> "tuple[Batter, Kitchen]":
    from mutabilis.core.batter.batter import Batter
    from mutabilis.core.reading.reading import read_lines
    from mutabilis.store.kitchen import load_kitchen

    if args.kitchen is not None and not args.kitchen.is_dir():
        raise Unreadable(f"--kitchen {args.kitchen}: no such folder")
    kitchen = load_kitchen(args.kitchen)
    for fault in kitchen.facts.faults:
        print(f"mutabilis: left out: {fault}", file=sys.stderr)
    lines = read_lines(_text(args.file), kitchen.facts, kitchen.profile)
    if len(lines) > 200:
        raise Unreadable(f"{args.file}: {len(lines)} lines; a batter has at most 200")
    batter = Batter(lines=lines, form=args.form, rest_min=args.rest, rest_c=args.temperature, blender=args.blender, servings=args.servings)
    return batter, kitchen


def _text(name: str, most: int = LARGEST_FILE) -> str:
    try:
        data = sys.stdin.buffer.read(most + 1) if name == "-" else _read(Path(name), most)
        if len(data) > most:
            raise Unreadable(f"{name}: larger than it can be ({most // 1000} kB)")
        return data.decode("utf-8-sig")
    except OSError as error:
        raise Unreadable(f"{name}: {error.strerror or error}") from error
    except UnicodeDecodeError as error:
        raise Unreadable(f"{name}: not text in UTF-8 (byte {error.start})") from error


def _read(path: Path, most: int) -> bytes:
    with path.open("rb") as file:
        return file.read(most + 1)


def _ledger(args: argparse.Namespace) -> int:
    from mutabilis.cli_json import as_json
    from mutabilis.core.analysis.analysis import analyse

    batter, kitchen = _batter(args)
    facts = kitchen.facts
    analysis = analyse(batter, facts, kitchen.profile, readings=kitchen.readings)
    if args.json:
        _print_json(as_json(analysis, facts))
    else:
        from mutabilis.cli_text import print_analysis

        print_analysis(analysis, facts)
    return 0


def _adapt(args: argparse.Namespace) -> int:
    from mutabilis.cli_json import adaptation_json
    from mutabilis.core.adapt.adapt import adapt
    from mutabilis.core.adapt.wishes import Wishes

    batter, kitchen = _batter(args)
    facts = kitchen.facts
    diets = tuple(dict.fromkeys(d.replace("-", "_").lower() for d in args.diet))
    for diet in diets:
        if diet not in facts.diets:
            raise Unreadable(f"--diet {diet}: not known; one of {', '.join(facts.diets)}")
    caps = {"net_carb_g": args.max_net_carb} if args.max_net_carb is not None else {}
    wishes = Wishes(diets=diets, servings=args.servings, caps=caps, alternatives=args.alternatives)
    found = adapt(batter, wishes, facts, kitchen.profile, kitchen.readings)
    if args.json:
        _print_json(adaptation_json(found, facts, kitchen.profile))
    else:
        from mutabilis.cli_text import print_adaptation

        print_adaptation(found, facts, kitchen.profile)
    return 0


def _process(args: argparse.Namespace) -> int:
    from mutabilis.cli_json import process_json
    from mutabilis.core.analysis.analysis import analyse
    from mutabilis.core.process.parts import Ways
    from mutabilis.core.process.process import process

    batter, kitchen = _batter(args)
    batter = batter.model_copy(update={"blender": batter.blender or args.way == "blender"})
    analysis = analyse(batter, kitchen.facts, kitchen.profile, None, kitchen.readings)
    plan = process(analysis, kitchen.facts, Ways(order=args.way, leavening=args.wet, whites=args.whites, bag=args.bag))
    if args.json:
        _print_json(process_json(plan, analysis))
        return 0
    for o in plan.operations:
        minutes = f" ({o.wait_min:.0f} min)" if o.wait_min >= 1 else ""
        print(f"{o.title}{minutes}: {kitchen.profile.told(o.text)}")
        for p in o.portions:
            print(f"  {p.grams:8.1f} g  {kitchen.facts.ingredients[p.ingredient].name}, {plan.vessel_name(o.vessel)}")
    print(f"The longest chain takes {plan.critical_path_min:.0f} minutes.")
    for line in batter.lines:
        if line.unresolved:
            print(f"Not in the plan, since it was not read: {line.quoted()}")
    return 0


def _dry_mix(args: argparse.Namespace) -> int:
    from mutabilis.cli_json import dry_mix_json
    from mutabilis.core.analysis.analysis import analyse
    from mutabilis.core.process.dry_mix import made_ahead

    batter, kitchen = _batter(args)
    mix = made_ahead(analyse(batter, kitchen.facts, kitchen.profile, {}, kitchen.readings), kitchen.facts, kitchen.profile)
    times = mix.times(args.jar) if args.jar else 1.0
    if args.json:
        _print_json(dry_mix_json(mix, times, batter))
        return 0
    for x in mix.inside:
        print(f"  {times * x.grams:8.1f} g  {x.name}")
    print(
        f"{times * mix.grams:.0f} g of mix, for {times:.3g} batches of {mix.grams:.0f} g. It keeps {mix.days} days: the {mix.limit} decides."
    )
    print(f"{mix.add_words} {mix.store_words}")
    for line in batter.lines:
        if line.unresolved:
            print(f"Not in the mix, since it was not read: {line.quoted()}")
    return 0


def _mend(args: argparse.Namespace) -> int:
    from mutabilis.cli_json import as_json, line_json
    from mutabilis.core.adapt.mends import mended
    from mutabilis.core.analysis.analysis import analyse
    from mutabilis.core.balances.warnings import TOLD

    batter, kitchen = _batter(args)
    facts = kitchen.facts
    before = analyse(batter, facts, kitchen.profile, readings=kitchen.readings)
    found = mended(before, facts, kitchen.profile, kitchen.readings)
    faults = [w for w in before.warnings if w.code in TOLD]
    if args.json:
        lines = [line_json(line, facts) for line in found.batter.lines if line.known] if found else []
        _print_json(
            {
                "faults": [{"code": w.code, "text": w.text} for w in faults],
                "mend": {"words": found.words, "codes": list(found.codes), "lines": lines, "ledger": as_json(found.analysis, facts)}
                if found
                else None,
            }
        )
        return 0
    for w in faults:
        print(f"! {w.text}")
    print(found.words if found else "Nothing is at fault." if not faults else "Nothing mends it without another fault.")
    return 0


def _leavening(args: argparse.Namespace) -> int:
    from mutabilis.core.balances.leavening import swap_leavening
    from mutabilis.core.batter.bowl import fill
    from mutabilis.core.food.kitchen_measures import measure

    batter, kitchen = _batter(args)
    old, new = (_named(name, kitchen) for name in (args.instead_of, args.put))
    bowl = fill(batter, kitchen.facts)
    there = [p for p in bowl.portions if p.ingredient.id == old.id]
    if not there:
        raise Unreadable(f"{args.file}: there is no {old.short} in it")
    grams = sum(p.grams for p in there)
    others = bowl.total("acid") - sum(p.grams * p.per.acid for p in there)
    try:
        found = swap_leavening(old, grams, new, others, bowl.total("buffer"))
    except ValueError as error:
        raise Unreadable(str(error)) from error
    if args.json:
        _print_json(
            {
                "from": old.id,
                "from_g": round(grams, 3),
                "to": new.id,
                "to_g": round(found.grams, 3),
                "measure": measure(new, found.grams, kitchen.profile),
                "co2_ml": round(found.gas_ml, 1),
                "acid_change_meq": round(found.acid_change_meq, 2),
                "spoon_for_spoon_ml": round(found.spoon_for_spoon_ml, 1),
            }
        )
    else:
        print(
            f"{grams:.1f} g {old.short} → {found.grams:.1f} g {new.short} ({measure(new, found.grams, kitchen.profile)}), for the same {found.gas_ml:.0f} mL of gas."
        )
        print(
            f"Gram for gram it would be {found.spoon_for_spoon_ml:.0f} mL. Acid against alkali shifts by {found.acid_change_meq:+.0f} meq."
        )
    return 0


def _named(name: str, kitchen: "Kitchen") -> "Ingredient":
    found = kitchen.facts.names.resolve(name.replace("_", " "))
    if not found.parts:
        raise Unreadable(f"{name}: not known")
    return kitchen.facts.ingredients[found.parts[0][0]]


def _print_json(value: object) -> None:
    json.dump(value, sys.stdout, ensure_ascii=False, indent=1)
    sys.stdout.write("\n")


def _plan(args: argparse.Namespace) -> int:
    from mutabilis.cli_service import run

    return run(args, lambda name: _from_json(name, LARGEST_SERVICE), Unreadable)


def _diagnose(args: argparse.Namespace) -> int:
    from mutabilis.cli_diagnosis import run

    return run(args, _from_json(args.file), Unreadable)


def _from_json(name: str, most: int = LARGEST_FILE) -> Any:
    """What a file of JSON says."""

    def refuse(word: str) -> NoReturn:
        raise Unreadable(f"{name}: {word} is no number")

    try:
        return json.loads(_text(name, most), parse_constant=refuse)
    except (json.JSONDecodeError, RecursionError) as error:
        raise Unreadable(f"{name}: not JSON ({str(error)[:80]})") from None


def _serve(args: argparse.Namespace) -> int:
    from mutabilis.api.server import serve

    return serve(args.database, args.port, args.demo, not args.no_log)


def _backup(args: argparse.Namespace) -> int:
    from mutabilis.store.copies import write_backup
    from mutabilis.store.database import StoreError

    try:
        write_backup(args.database, args.file)
    except StoreError as error:
        raise Unreadable(str(error)) from error
    print(f"{args.file}: {args.file.stat().st_size / 1000:.0f} kB")
    return 0


def _restore(args: argparse.Namespace) -> int:
    from mutabilis.store.copies import restore
    from mutabilis.store.database import StoreError

    try:
        before = restore(args.database, args.file)
    except StoreError as error:
        raise Unreadable(str(error)) from error
    print(f"{args.database} is as {args.file} has it." + (f" What was there before: {before}" if before else ""))
    return 0


if __name__ == "__main__":
    sys.exit(main())
