"""At the bench, one number at a time. Scores: which edge is at the fence, which face is up, what is read off. Acts:
what is glued in which order, so that every joint can still be reached."""

from yawning_lantern.bench.acts import Act, acts_of
from yawning_lantern.bench.made import made_nodes
from yawning_lantern.bench.order import Before, Order, Reason, Reasons, Schools, find_order, natural
from yawning_lantern.bench.plan import BenchPlan, Material, bench_plan
from yawning_lantern.bench.reach import Reach, Reached
from yawning_lantern.bench.score_plan import Edge, Placing, Reading, ScorePlan, score_plan
from yawning_lantern.bench.scores import Face
from yawning_lantern.bench.settings import fewest_numbers
from yawning_lantern.bench.step import KINDS, Step, Thing
from yawning_lantern.bench.walk import Walk, resumed

__all__ = [
    "KINDS",
    "Act",
    "Before",
    "BenchPlan",
    "Edge",
    "Face",
    "Material",
    "Order",
    "Placing",
    "Reach",
    "Reached",
    "Reading",
    "Reason",
    "Reasons",
    "Schools",
    "ScorePlan",
    "Step",
    "Thing",
    "Walk",
    "acts_of",
    "bench_plan",
    "fewest_numbers",
    "find_order",
    "made_nodes",
    "natural",
    "resumed",
    "score_plan",
]
