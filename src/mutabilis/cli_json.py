"""What the command line prints for scripts: analyses and adaptations under keys that stay as they are."""

from typing import TYPE_CHECKING, Any

from mutabilis.core.analysis.analysis import Analysis, all_ledgers
from mutabilis.core.analysis.facts import AnalysisFacts
from mutabilis.core.analysis.sides import SideDish
from mutabilis.core.balances.holdback import Way, hold_back
from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.batter.bowl import Bowl
from mutabilis.core.diets.verdicts import Reason
from mutabilis.core.food.kitchen_measures import measure
from mutabilis.core.reading.line_questions import questions_of

if TYPE_CHECKING:
    from mutabilis.core.adapt.adapt import Adaptation
    from mutabilis.core.adapt.job import Answer
    from mutabilis.core.adapt.slots import Slot
    from mutabilis.core.facts import AllFacts
    from mutabilis.core.measures.profile import Profile
    from mutabilis.core.process.dry_mix import DryMix
    from mutabilis.core.process.parts import Process, SideWork


def as_json(a: Analysis, facts: AnalysisFacts) -> dict[str, object]:
    """The analysis under the stable keys of the command line. Numbers as computed, rounded only where shown."""
    w, lift_, s, n = a.water, a.lift, a.setting, a.nutrition
    return {
        "lines": [line_json(line, facts) for line in a.batter.lines if line.known],
        "unresolved": [line.text for line in a.batter.lines if line.unresolved],
        "set_aside": [line.text for line in a.batter.lines if line.where == "aside"],
        "batter_g": _r(a.batter_g), "form": a.batter.form, "servings": _r(a.servings),
        "water": {
            "total_g": _r(w.total_g), "bound_g": _r(w.bound_g), "hydration_pct": _r(w.hydration_pct), "solids_fraction": _r(w.solids_fraction, 4),
            "yield_stress_pa": _r(w.yield_stress_pa), "spread_cm": _r(w.spread_cm), "class": w.kind, "missing_g": _r(w.missing_g),
            "spread_low_cm": _r(w.spread_low_cm), "spread_high_cm": _r(w.spread_high_cm), "thickening": _r(w.thickening, 4),
        },
        "lift": {
            "co2_ml": _r(lift_.co2_ml), "co2_ml_per_100g": _r(lift_.co2_ml_per_100g), "residual_alkali_meq_per_100g": _r(lift_.residual_alkali_meq_per_100g),
            "excess_acid_meq_per_100g": _r(lift_.excess_acid_meq_per_100g), "air_ml": _r(lift_.air_ml), "verdict": lift_.verdict,
            "co2_left_ml": _r(lift_.co2_left_ml), "latest_min": _r(lift_.latest_min),
        },
        "set": {"egg_equivalents": _r(s.egg_equivalents), "per_100g": _r(s.per_100g), "egg_share": _r(s.egg_share), "verdict": s.verdict, "egg_dependent": s.egg_dependent},
        "sweetness_g": _r(a.ledger("sweetness").total), "fat_g": _r(n.fat_g), "sodium_mg": _r(a.sodium_mg, 1), "potassium_mg": _r(a.potassium_mg, 1), "browning": _r(a.ledger("browning").mark),
        "salt_per_100g": _r(a.ledger("salt").mark),
        "nutrition": {k: _r(getattr(n, k)) for k in n.__slots__},
        "diets": {
            key: {
                "verdict": j.verdict,
                "reasons": [_reason(r, a) | {"index": r.line} for r in j.reasons],
                "cautions": [r.text for r in j.cautions],
            }
            for key, j in a.diets.items()
        },
        "plate": {
            "lines": a.plate.lines,
            "nutrition": {k: _r(getattr(a.plate.nutrition, k)) for k in a.plate.nutrition.__slots__},
            "diets": {key: {"verdict": j.verdict, "reasons": [_reason(r, a) for r in j.reasons]} for key, j in a.plate.diets.items()},
            "allergens": {"contains": list(a.plate.contains), "may_contain": list(a.plate.may_contain)},
        },
        "hold_back": {"scale": _held(a.bowl, "scale"), "cups": _held(a.bowl, "cups")},
        "yield": {
            "pieces": a.yields.whole, "last_share": _r(a.yields.last_share), "portion_ml": a.yields.portion_ml, "portion_g": _r(a.yields.portion_g, 1),
            "diameter_cm": _r(a.yields.diameter_cm, 1), "thickness_cm": _r(a.yields.thickness_cm, 2),
            "cooked_g": [_r(a.yields.cooked_low_g, 1), _r(a.yields.cooked_high_g, 1)],
        },
        "ledgers": [
            {
                "key": x.key, "unit": x.unit, "total": _r(x.total), "per_100g": _r(x.per_100g), "per_piece": _r(a.per_piece(x)), "mark": _r(x.mark),
                "mark_unit": x.mark_unit, "low": _r(x.low), "high": _r(x.high), "band": [x.band.low, x.band.high] if x.band else None, "verdict": x.verdict,
                "contributions": [{"line": a.batter.lines[c.line].text, "amount": _r(c.amount), "rule": c.rule, "confidence": c.confidence, "part": c.part} for c in x.contributions],
            }
            for x in all_ledgers(a)
        ],
        "allergens": {"contains": list(a.contains), "may_contain": list(a.may_contain)},
        "warnings": [{"code": v.code, "text": v.text} for v in a.warnings],
    }  # fmt: skip


def _reason(r: Reason, a: Analysis) -> dict[str, object]:
    return {"line": None if r.line is None else a.batter.lines[r.line].text, "reason": r.text}


def _held(bowl: Bowl, way: Way) -> dict[str, object] | None:
    plan = hold_back(bowl, way)
    if plan is None:
        return None
    return {
        "ingredient": plan.ingredient,
        "name": plan.name,
        "plan_g": _r(plan.plan_g, 1),
        "pour_g": _r(plan.pour_g, 1),
        "hold_g": _r(plan.hold_g, 1),
        "enough_g": _r(plan.enough_g, 1),
    }


def line_json(line: BatterLine, facts: AnalysisFacts) -> dict[str, object]:
    """One line under the stable keys of the command line."""
    assert line.ingredient is not None
    return {
        "text": line.text, "ingredient": line.ingredient, "name": facts.ingredients[line.ingredient].name, "grams": _r(line.grams, 2),
        "grams_low": _r(line.low, 2), "grams_high": _r(line.high, 2), "confidence": line.confidence, "note": line.note, "where": line.where,
        "also": list(line.also), "maybe": list(line.maybe), "heard": list(line.heard), "unread": list(line.unread), "guessed": line.guessed,
        "questions": [q.text for q in questions_of(line, facts)],
    }  # fmt: skip


def _r(value: float | None, digits: int = 3) -> float | None:
    return None if value is None else round(value, digits)


def process_json(p: "Process", a: Analysis) -> dict[str, object]:
    """The plan of making under the stable keys of the command line."""
    m = p.moments
    return {
        "form": a.batter.form,
        "lines": [{"line": at, "text": line.text, "ingredient": line.ingredient, "grams": line.grams, "where": line.where} for at, line in enumerate(a.batter.lines) if line.known],
        "unresolved": [line.text for line in a.batter.lines if line.unresolved],
        "vessels": [{"id": v.id, "name": v.name} for v in p.vessels],
        "operations": [
            {
                "id": o.id, "kind": o.kind, "vessel": o.vessel, "title": o.title,
                "portions": [{"line": x.line, "ingredient": x.ingredient, "grams": x.grams, "share": x.share} for x in o.portions],
                "takes": list(o.takes), "text": o.text, "why": o.why, "hands_min": _r(o.hands_min), "wait_min": _r(o.wait_min), "skill": o.skill, "after": list(o.after), "done_when": o.done_when,
                "cautions": list(o.cautions), "side": o.side,
            }
            for o in p.operations
        ],
        "moments": {
            "leavening": None if m.leavening is None else {"at": m.leavening.at, "vessel": m.leavening.vessel, "lasts_min": _r(m.leavening.lasts_min), "why": m.leavening.why},
            "foam": None if m.foam is None else {"vessel": m.foam.vessel, "half_min": m.foam.half_min},
            "held_back": None if m.held_back is None else {"line": m.held_back.line, "ingredient": m.held_back.ingredient, "grams": _r(m.held_back.grams, 1), "vessel": m.held_back.vessel},
            "judged": {"by_plate": m.judged.by_plate, "why": m.judged.why, "minute": m.judged.minute, "now_cm": _r(m.judged.now_cm, 1), "aim_cm": _r(m.judged.aim_cm, 1)},
            "rest": {"minutes": _r(p.rest_min, 1), "celsius": p.rest_c},
        },
        "sides": [_side_json(x, next(d for d in a.sides if d.name == x.name)) for x in p.sides],
        "critical_path_min": _r(p.critical_path_min, 1),
    }  # fmt: skip


def _side_json(work: "SideWork", dish: SideDish) -> dict[str, object]:
    return {
        "name": work.name, "kind": work.kind, "lines": list(work.lines), "grams": _r(dish.grams, 1), "yield_g": _r(work.yield_g, 1), "hands_min": _r(work.hands_min),
        "wait_min": _r(work.wait_min), "keeps_days": work.days, "operations": [o.id for o in work.operations],
        "diets": {key: judged.verdict for key, judged in dish.diets.items()}, "allergens": {"contains": list(dish.contains), "may_contain": list(dish.may_contain)},
    }  # fmt: skip


def dry_mix_json(mix: "DryMix", times: float, batter: Batter) -> dict[str, object]:
    """A dry mix under the stable keys of the command line: grams in the jar, for so many batches."""
    return {
        "batch_g": _r(mix.grams, 1), "factor": _r(times), "jar_g": _r(times * mix.grams, 1),
        "inside": [{"line": x.line, "ingredient": x.ingredient, "grams": _r(times * x.grams), "share": x.share} for x in mix.inside],
        "add": [{"line": x.line, "ingredient": x.ingredient, "grams": _r(x.grams), "per_100g": _r(x.per_100g), "measure": x.measure} for x in mix.added],
        "rest_min": _r(mix.rest_min, 1), "keeps_days": mix.days, "keeps_by": mix.limit, "label": mix.add_words, "storage": mix.store_words,
        "unresolved": [line.text for line in batter.lines if line.unresolved],
    }  # fmt: skip


def adaptation_json(found: "Adaptation", facts: "AllFacts", profile: "Profile") -> dict[str, Any]:
    """An adaptation under the stable keys of the command line."""
    nearest = found.infeasible.nearest if found.infeasible else None
    return {
        "base": as_json(found.base, facts),
        "faults": list(found.faults),
        "alternatives": [_answer_json(a, facts, profile) for a in found.answers],
        "slots": [_slot_json(s, found) for s in found.slots],
        "infeasible": None
        if found.infeasible is None
        else {"reasons": list(found.infeasible.reasons), "nearest": _answer_json(nearest, facts, profile) if nearest else None},
    }


def _slot_json(slot: "Slot", found: "Adaptation") -> dict[str, Any]:
    at = found.answers.index(slot.answer) if slot.answer else None
    return {"kind": slot.kind, "label": slot.label, "alternative": at, "fact": slot.fact, "empty": slot.empty}


def _answer_json(answer: "Answer", facts: "AllFacts", profile: "Profile") -> dict[str, Any]:
    lines = []
    for line in answer.analysis.batter.lines:
        i = facts.ingredients.get(line.ingredient or "")
        lines.append(
            {
                "ingredient": line.ingredient,
                "name": i.name if i else line.text,
                "grams": round(line.grams, 3),
                "measure": measure(i, line.grams, profile) if i else "",
                "where": line.where,
            }
        )
    return {
        "lines": lines,
        "ledger": as_json(answer.analysis, facts),
        "changes": [{"from": c.source, "to": c.target, "reason": c.reason} for c in answer.changes],
        "reasons": list(answer.reasons),
        "adds": list(answer.adds),
        "cautions": list(answer.cautions),
        "technique": list(answer.technique),
        "worse": list(answer.worse),
        "confidence": answer.confidence,
        "score": answer.score,
    }
